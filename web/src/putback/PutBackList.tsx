/** What tests took apart, each with a tick when it is back; and what has to come off before a test above 250 V. */
import { Box, Flex } from "@chakra-ui/react";
import { NOT_YOURS, useMayChange } from "../fields/mayChange";
import { add, setField, useInspection } from "../inspection/open";
import { Button } from "../ui/Button";
import { Icon } from "../ui/Icon";
import { type Thing, usePuttingBack } from "./usePuttingBack";

export function PutBackList({ boardId }: { boardId: string }) {
  const things = usePuttingBack(boardId);
  const may = useMayChange("put_back", "back_at");
  if (things.length === 0) return <p>Nothing yet: what a test takes apart lists itself here as it is measured.</p>;
  return (
    <Box as="ul" listStyleType="none">
      {things.map((thing) => (
        <Row key={`${thing.item} ${thing.about_id}`} thing={thing} may={may} />
      ))}
      {!may && <Box color="quiet">{NOT_YOURS.decide}</Box>}
    </Box>
  );
}

function Row({ thing, may }: { thing: Thing; may: boolean }) {
  const model = useInspection((s) => s.model?.id) ?? "";
  const mark = (field: "off_at" | "back_at", on: boolean) => {
    const at = on ? new Date().toISOString() : null;
    if (thing.record_id) setField({ kind: "put_back", id: thing.record_id, field }, at);
    else add("put_back", model, { item: thing.item, about_id: thing.about_id, [field]: at });
  };
  return (
    <Flex
      as="li"
      gap="3"
      py="2"
      align="center"
      borderBottomWidth="1px"
      borderColor="line"
      css={{ "& small": { color: "quiet" } }}
    >
      <Box flex="1 1 auto" minW="0">
        {thing.open ? <b>{thing.says}</b> : thing.says}
        <br />
        <small>{thing.because}</small>
      </Box>
      {thing.before && !thing.off && (
        <Button label={`${thing.says}: taken off`} disabled={!may} onClick={() => mark("off_at", true)}>
          Off now
        </Button>
      )}
      {(thing.off || thing.back) && (
        <Button
          variant="choice"
          pressed={thing.back}
          label={`${thing.says}: put back`}
          disabled={!may}
          onClick={() => mark("back_at", !thing.back)}
        >
          {thing.back && <Icon name="tick" size={16} />} Back
        </Button>
      )}
    </Flex>
  );
}
