/** The walk-round: room by room, which circuits the points hang on, what is opened, the schedule, and what is limited. */
import { Box, Flex } from "@chakra-ui/react";
import { Segments } from "../ui/Segments";
import { useSearchParams } from "react-router";
import { useInspection } from "../inspection/open";
import { StageHead } from "../ui/StageHead";
import { Limits } from "./Limits";
import { Linking } from "./Linking";
import { Rooms } from "./Rooms";
import { Sample } from "./Sample";
import { Schedule } from "./Schedule";

const VIEWS = {
  rooms: { name: "Rooms", view: Rooms },
  circuits: { name: "Circuits", view: Linking },
  sample: { name: "Sample", view: Sample },
  schedule: { name: "Schedule", view: Schedule },
  limits: { name: "Limitations", view: Limits },
} as const;

type View = keyof typeof VIEWS;

export default function Walk() {
  const [params, setParams] = useSearchParams();
  const named = params.get("view") ?? "rooms";
  const view: View = named in VIEWS ? (named as View) : "rooms";
  const { view: Shown } = VIEWS[view];
  return (
    <Flex direction="column" minH="full">
      <StageHead title="Walk-round" line={<Looked />}>
        <Segments
          label="Part of the walk-round"
          value={view}
          choices={Object.entries(VIEWS).map(([key, { name }]) => [key, name] as const)}
          change={(to) => setParams(to === "rooms" ? {} : { view: to }, { replace: true })}
        />
      </StageHead>
      <Box flex="1" display="flex" flexDirection="column" minH="0">
        <Shown />
      </Box>
    </Flex>
  );
}

/** How many points were looked at, of how many. */
function Looked() {
  const counted = useInspection((s) => {
    const points = Object.values(s.model?.entities ?? {}).filter(
      (entity) => entity.kind === "point" && !entity.values.removed,
    );
    const seen = points.filter((point) => point.values.looked || point.values.not_reached).length;
    return `${seen}/${points.length}`;
  });
  const [seen = "0", all = "0"] = counted.split("/");
  if (all === "0") return "nothing counted yet";
  return (
    <>
      <Box as="b" fontFamily="mono" fontSize="lg" color="ink">
        {seen}/{all}
      </Box>{" "}
      points looked at
    </>
  );
}
