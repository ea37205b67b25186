/** A point of a room: what it is, what is known of it, and one tap for OK, for a defect, or for what stands in the way. */
import { Box, Flex, Text } from "@chakra-ui/react";
import { memo, useDeferredValue } from "react";
import { useAside } from "../inspection/aside";
import type { Entity } from "../inspection/types";
import { Button } from "../ui/Button";
import { PointDetails } from "./PointDetails";
import { useCodesAt, usePointView } from "./points";
import { choose, mark, select, useWalking } from "./walking";

interface Props {
  point: Entity;
  /** Until the verdict names it. */
  name: string;
}

const FURNITURE = "furniture in the way";

export const PointRow = memo(function PointRow({ point, name: ownName }: Props) {
  const view = usePointView(point.id);
  const chosen = useWalking((s) => s.point === point.id);
  // What is under the thumb answers first; what else is known of the point follows, and counting on overtakes it.
  const unfolded = useDeferredValue(chosen, false);
  const codes = useCodesAt(point.id);
  const leftOut = useAside(point.id);
  const v = point.values;
  const name = view?.name ?? ownName;
  return (
    <Box as="li" borderTopWidth="1px" borderColor="line" bg={chosen ? "lampWash" : undefined} data-point={point.id}>
      <Flex align="center" gap="1.5" py="1.5" px="1.5">
        <Box flex="1" minW="0">
          <Button
            variant="plain"
            size="bare"
            wide
            expanded={chosen}
            label={`${name}: more`}
            onClick={() => select(chosen ? null : point.id)}
          >
            <Box as="span" flex="1" minW="0" textAlign="start" py="1" color={leftOut && "quiet"}>
              <b>{name}</b>
              {(leftOut || view?.line) && (
                <Box as="small" display="block" color="quiet" fontWeight="normal" lineClamp="2">
                  {[leftOut?.says, view?.line].filter(Boolean).join(" · ")}
                </Box>
              )}
            </Box>
          </Button>
          {view?.to_open && (
            <Flex align="center" gap="2">
              <Button
                size="sm"
                variant="choice"
                pressed={v.opened === true}
                onClick={() => mark(point, "opened", true)}
              >
                {v.opened ? "opened" : "open it"}
              </Button>
              <Text as="small" color="quiet">
                {view.to_open}
              </Text>
            </Flex>
          )}
        </Box>
        <Flex role="group" aria-label={`${name}: looked at`} gap="1.5" flex="none" hidden={!!leftOut && !v.looked}>
          <Button
            variant={v.looked === "fine" ? "action" : "choice"}
            size="tile"
            pressed={v.looked === "fine"}
            onClick={() => mark(point, "looked", "fine")}
          >
            OK
          </Button>
          <Button
            variant="choice"
            size="tile"
            pressed={v.looked === "defect"}
            label={codes ? `Defect: ${codes}` : undefined}
            onClick={() => choose(point.id)}
          >
            {codes || "Defect"}
          </Button>
          <Button
            variant="choice"
            size="tile"
            pressed={!!v.not_reached}
            title="Furniture in the way: a limitation"
            onClick={() => mark(point, "not_reached", v.not_reached ?? FURNITURE)}
          >
            No access
          </Button>
        </Flex>
      </Flex>
      {chosen && unfolded && <PointDetails point={point} name={name} look={view?.look} />}
    </Box>
  );
});
