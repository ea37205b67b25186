/** Put right on the day: as found and as left, each with its photo, and the retest, without which it still counts. */
import { Box, Text } from "@chakra-ui/react";
import { Fields } from "../fields/Fields";
import { setField, useMay } from "../inspection/open";
import type { Entity } from "../inspection/types";
import { Photos } from "../photos/Photos";
import { Check } from "../ui/CheckField";

export function Mended({ observation }: { observation: Entity }) {
  const decides = useMay("decide");
  const v = observation.values;
  const mended = v.mended === true;
  const lacking = [!v.as_left && "as left", !v.retest && "the retest"].filter(Boolean);
  return (
    <Box mb="4">
      <Check
        checked={mended}
        disabled={!decides}
        change={(on) => setField({ kind: "observation", id: observation.id, field: "mended" }, on || null)}
      >
        Put right on the day
      </Check>
      {mended && (
        <Box mt="2" pl="3" borderLeftWidth="3px" borderColor="line">
          <Fields
            kind="observation"
            id={observation.id}
            fields={[
              { field: "as_left", wide: true },
              { field: "retest", hint: "What was measured, and what it showed.", wide: true },
            ]}
          />
          <Photos kind="observation" id={observation.id} shows="as left" label="Photo as left" inline only />
          {lacking.length > 0 && (
            <Text>
              <b>Still counts.</b> Add “as left” and the retest: {lacking.join(" and ")} missing.
            </Text>
          )}
        </Box>
      )}
    </Box>
  );
}
