/** Everything that stands against a satisfactory result, by kind; a tap goes to where it is answered. */
import { Box, Link } from "@chakra-ui/react";
import { useReference } from "../api/reference";
import { Mark } from "../drawings/Mark";
import { useInspection } from "../inspection/open";
import { useGoTo } from "../inspection/goTo";
import { Fold } from "../ui/Fold";

/** So many lines of one kind are shown unfolded. */
const FEW = 4;

export function Against() {
  const against = useInspection((s) => s.model?.judgement?.against);
  const kinds = useReference()?.against_kinds ?? {};
  const goTo = useGoTo();
  if (!against?.length) return null;
  const objections = Object.entries(kinds)
    .map(([kind, [one, several]]) => ({ kind, one, several, of: against.filter((item) => item.kind === kind) }))
    .filter((group) => group.of.length > 0);
  return (
    <Box as="section" aria-label="Against a satisfactory result" mb="4">
      {objections.map(({ kind, one, several, of }) => (
        <Fold key={kind} title={`${of.length} ${of.length === 1 ? one : several}`} small opened={of.length <= FEW}>
          <Box as="ul" listStyleType="none" mb="2">
            {of.map((item) => (
              <li key={`${item.entity_id}.${item.field}.${item.says}`}>
                <Link
                  as="button"
                  minH="touch"
                  textAlign="start"
                  display="inline-flex"
                  alignItems="center"
                  gap="2"
                  onClick={() =>
                    goTo({
                      stage: item.stage,
                      entity: item.entity,
                      id: item.entity_id,
                      field: item.field,
                      observation: item.observation_id,
                    })
                  }
                >
                  <Mark status={kind === "code" || kind === "failing" ? "fail" : "attention"} size={14} />
                  {item.says}
                </Link>
              </li>
            ))}
          </Box>
        </Fold>
      ))}
    </Box>
  );
}
