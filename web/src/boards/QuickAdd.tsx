/** The board builder: a line to type circuits into, way after way, without leaving the keyboard. */
import { Box } from "@chakra-ui/react";
import { useMemo, useState } from "react";
import { useReference } from "../api/reference";
import type { Value } from "../inspection/types";
import { cableAndDevice } from "../inspection/words";
import { ComboboxField } from "../ui/ComboboxField";
import { type Offer, offers, type Usual } from "./quick";

const NONE: readonly Usual[] = [];

export function QuickAdd({ way, put }: { way: number; put: (fields: Record<string, Value>) => string }) {
  const [text, setText] = useState("");
  const [last, setLast] = useState<Offer | null>(null);
  const usual = useReference()?.usual_circuits ?? NONE;
  const offered = useMemo(() => offers(text, last, usual), [text, last, usual]);
  const take = (offer: Offer | undefined) => {
    if (!offer) return;
    put(offer.fields);
    setLast(offer);
    setText("");
  };
  const options = useMemo(
    () =>
      offered.map((offer, at) => {
        const { form, rcd_rated_ma: residual } = offer.fields;
        const particulars = [form, cableAndDevice(offer.fields), residual && `${String(residual)} mA`];
        return { key: String(at), title: offer.name, line: particulars.filter(Boolean).join(" · ") };
      }),
    [offered],
  );
  return (
    <Box pt="3.5" display="flex" gap="3" alignItems="center">
      <Box as="span" flex="none" fontSize="lg" aria-hidden="true">
        Way <b>{way}</b>
      </Box>
      <ComboboxField
        quiet
        label="Type a circuit"
        list="Usual circuits"
        placeholder="kit, lights up, sho 10/4 b40 30ma 1p, sp for spare, = for the last again"
        text={text}
        type={setText}
        options={options}
        choose={(key) => take(offered[Number(key)])}
        enter={() => take(offered[0])}
      />
    </Box>
  );
}
