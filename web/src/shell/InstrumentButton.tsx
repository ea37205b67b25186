/** Which instrument readings come from: typed off one that is chosen, or by a link to one that is paired. */
import { Box, Flex, Stack } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { api, answer, type Schemas } from "../api/client";
import { remembered } from "../api/remembered";
import { useReference } from "../api/reference";
import { typeWith, useDesk } from "../inspection/desk";
import { pair, pairAgain, unlink, USUAL_ADDRESS } from "../inspection/instrumentLink";
import { linkedInstrument, takeInstrument } from "../inspection/instruments";
import { children } from "../inspection/model";
import { useInspection } from "../inspection/open";
import { knowFigures, useReadingSource } from "../inspection/readingSource";
import { useTranslate, whereOf } from "../inspection/words";
import { StoredReadings } from "./StoredReadings";
import { Button } from "../ui/Button";
import { SelectField } from "../ui/ChoiceField";
import { Dialog } from "../ui/Dialog";
import { Icon } from "../ui/Icon";
import { TextField } from "../ui/TextField";

export function InstrumentButton() {
  const [opened, setOpened] = useState(false);
  const link = useReadingSource((s) => s.link);
  const source = useReadingSource((s) => s.source);
  const typedWith = useDesk((s) => s.typedWith);
  const chosen = useInspection((s) => (typedWith ? s.model?.entities[typedWith]?.values.name : undefined));
  useFocusTold();
  const register = useRegister(link !== "none");
  // Asked when the first reading is kept, by then as the register says.
  const entries = useRef(register);
  useEffect(() => {
    entries.current = register;
  }, [register]);
  useEffect(() => void pairAgain((instrument) => linkedInstrument(instrument, entries.current)), []);
  const says =
    link === "linked" ? source.name : link === "away" ? "out of reach" : link === "ended" ? "link ended" : null;
  const words = says ?? (chosen ? `typed off ${String(chosen)}` : "Instrument");
  return (
    <>
      <Button
        size="sm"
        variant="choice"
        pressed={link === "linked"}
        label={says || chosen ? `Instrument: ${words}` : "Instrument"}
        onClick={() => setOpened(true)}
      >
        <Icon name="instrument" size={18} />
        <Box as="span" hideBelow="md" maxW="12rem" truncate>
          {words}
        </Box>
      </Button>
      {opened && (
        <InstrumentDialog
          close={() => {
            setOpened(false);
            // Back to the figure that waits, rather than to this button.
            const { focus } = useDesk.getState();
            if (focus)
              setTimeout(() =>
                document.querySelector<HTMLElement>(`[data-cell="${focus.id}.${focus.field}"]`)?.focus(),
              );
          }}
        />
      )}
    </>
  );
}

type Registered = Schemas["InstrumentOut"]["entry"];

const NONE: Registered[] = [];

/** The firm's instruments, once they are wanted. */
function useRegister(wanted = true): readonly Registered[] {
  const register = useQuery({
    queryKey: ["instruments"],
    queryFn: () => remembered("instruments", () => answer(api.GET("/api/instruments"))),
    select: (all) => all.instruments.map(({ entry }) => entry),
    retry: false,
    staleTime: 60_000,
    enabled: wanted,
  });
  return register.data ?? NONE;
}

/** What is linked knows which figure waits, and a figure what it takes. */
function useFocusTold(): void {
  const reference = useReference();
  const translate = useTranslate();
  const focus = useDesk((s) => s.focus);
  const source = useReadingSource((s) => s.source);
  useEffect(() => {
    const figure = (place: { kind: string; field: string }) => {
      const spec = reference?.fields[place.kind]?.[place.field];
      return spec ? { takes: spec.takes ?? null, unit: spec.unit, label: translate(spec.label) } : null;
    };
    knowFigures(figure);
    const waiting = focus && figure(focus);
    const entity = focus && useInspection.getState().model?.entities[focus.id];
    source.waits?.(
      waiting?.takes
        ? { says: `${whereOf(entity ?? undefined)} · ${waiting.label}`, function: waiting.takes.key }
        : null,
    );
  }, [reference, translate, focus, source]);
}

function InstrumentDialog({ close }: { close: () => void }) {
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
