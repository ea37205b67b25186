/** Which instrument readings are typed off, the link to one, and what one has stored. */
import { Flex, Stack } from "@chakra-ui/react";
import { useRef, useState } from "react";
import { typeWith, useDesk } from "../inspection/desk";
import { pair, unlink, USUAL_ADDRESS } from "../inspection/instrumentLink";
import { linkedInstrument, takeInstrument } from "../inspection/instruments";
import { children } from "../inspection/model";
import { useInspection } from "../inspection/open";
import { useReadingSource } from "../inspection/readingSource";
import { Button } from "../ui/Button";
import { Dialog } from "../ui/Dialog";
import { SelectField } from "../ui/SelectField";
import { TextField } from "../ui/TextField";
import { StoredReadings } from "./StoredReadings";
import { useRegister } from "./useRegister";

export function InstrumentDialog({ close }: { close: () => void }) {
  const model = useInspection((s) => s.model);
  const typedWith = useDesk((s) => s.typedWith);
  const source = useReadingSource((s) => s.source);
  const link = useReadingSource((s) => s.link);
  const [code, setCode] = useState("");
  const [address, setAddress] = useState(USUAL_ADDRESS);
  const [refused, setRefused] = useState<string>();
  const [pairing, setPairing] = useState(false);
  const first = useRef<HTMLInputElement>(null);
  const entries = useRegister();
  if (!model) return null;
  const used = children(model, "instrument_used", model.id);
  const others = entries.filter(
    ({ id, values }) => !values.retired && !used.some((instrumentUsed) => instrumentUsed.values.register_id === id),
  );
  const named = (values: Record<string, unknown>) =>
    [values.name ?? "Instrument", values.serial].filter(Boolean).map(String).join(" ");
  const choose = (id: string) => {
    const fresh = others.find((registerEntry) => registerEntry.id === id);
    typeWith(id === "" ? null : fresh ? takeInstrument(model.id, fresh) : id);
  };
  const connect = async () => {
    setPairing(true);
    setRefused(undefined);
    try {
      await pair(address, code, (instrument) => linkedInstrument(instrument, entries));
      close();
    } catch (error) {
      setRefused(error instanceof Error ? error.message : String(error));
      setPairing(false);
    }
  };
  return (
    <Dialog title="Instrument" close={close} first={first} width="30rem">
      <Stack gap="4">
        <SelectField
          label="Figures that are typed are read off"
          value={typedWith ?? ""}
          choices={[
            ["", "not said"],
            ...used.map(({ id, values }): [string, string] => [id, named(values)]),
            ...others.map(({ id, values }): [string, string] => [id, named(values)]),
          ]}
          change={choose}
        />
        {source.kind === "linked" && link !== "ended" ? (
          <Flex gap="3" align="center" wrap="wrap" justify="space-between">
            <span>
              <b>{source.name}</b> {link === "away" ? "is out of reach; it is looked for." : "is linked."}
            </span>
            <Button onClick={unlink}>End the link</Button>
          </Flex>
        ) : (
          <form
            onSubmit={(event) => {
              event.preventDefault();
              void connect();
            }}
          >
            <Stack gap="3">
              <TextField
                label="Pairing code on the instrument’s screen"
                value={code}
                change={setCode}
                inputMode="numeric"
                maxLength={12}
                refused={refused}
              />
              <TextField label="Where its program listens" value={address} change={setAddress} maxLength={80} />
              <Flex justify="flex-end">
                <Button type="submit" variant="action" disabled={pairing || !code.trim()}>
                  {pairing ? "Pairing …" : "Link"}
                </Button>
              </Flex>
            </Stack>
          </form>
        )}
        <StoredReadings instrumentId={typedWith} close={close} />
      </Stack>
    </Dialog>
  );
}
