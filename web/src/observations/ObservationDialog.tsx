/** Recording an observation from anywhere: where comes from the focus, what from the catalogue or one's own words. */
import { Box, Flex } from "@chakra-ui/react";
import { useMemo, useRef, useState } from "react";
import type { CatalogueEntry, Judgement } from "../api/client";
import { useFieldSpec, useReference } from "../api/reference";
import { CodeMark } from "../drawings/Mark";
import { matching, useCatalogue } from "../inspection/catalogue";
import { type About, closeObservation, focusOn } from "../inspection/desk";
import { add, setField, useInspection, useMay } from "../inspection/open";
import { type Place, type Value, placeOf } from "../inspection/types";
import { whereOf } from "../inspection/words";
import { Button } from "../ui/Button";
import { Check } from "../ui/CheckField";
import { Dialog } from "../ui/Dialog";
import { FilterList } from "../ui/FilterList";
import { TextField } from "../ui/TextField";
import { tell } from "../ui/tell";

/** Where an entry starts here: as it is suggested, as what is known of the point has moved it, else where the firm starts. */
function startsWith(judgement: Judgement | null | undefined, about: About, catalogue: CatalogueEntry): string {
  const suggested = judgement?.suggested.find(
    (s) => s.key === catalogue.key && (s.entity_id === about.id || s.touches.includes(about.id)),
  );
  const moved = judgement?.points.find((point) => point.id === about.id)?.moved[catalogue.key];
  return suggested?.code ?? moved?.code ?? judgement?.starting_codes[catalogue.key] ?? catalogue.code;
}

interface Written {
  place: string;
  text: string;
  entry: CatalogueEntry | undefined;
  onTheDay: boolean;
  asLeft: string;
  retest: string;
  /** Of who decides. */
  code?: string;
  reason?: string;
}

/** The fields of an observation as it was written. */
function recorded({ place, text, entry, onTheDay, asLeft, retest, code, reason }: Written): Record<string, Value> {
  const fields: Record<string, Value> = {
    place: place.trim() || null,
    text: text.trim(),
    catalogue_key: entry?.key ?? null,
    as_left: onTheDay ? asLeft.trim() || null : null,
  };
  if (code === undefined) return fields;
  fields.code = code || null;
  fields.code_reason = reason?.trim() || null;
  fields.mended = onTheDay || null;
  fields.retest = onTheDay ? retest.trim() || null : null;
  return fields;
}

/** What of the catalogue is offered: what fits the words; first what the verdicts speak of, is met there, was taken last. */
function useOptions(about: About, text: string) {
  const catalogue = useCatalogue();
  const model = useInspection((s) => s.model);
  return useMemo(() => {
    const entities = Object.values(model?.entities ?? {});
    // What the verdicts speak of here, what is met on such a thing, and what was recorded last stand first.
    const suggestedKeys = (model?.judgement?.notes ?? [])
      .filter((n) => n.id === about.id)
      .map((n) => n.observation ?? "");
    const look = model?.judgement?.points.find((point) => point.id === about.id)?.look;
    const met = look ? (model?.judgement?.looks[look]?.met ?? []) : [];
    const recent = entities
      .filter((entity) => entity.kind === "observation" && entity.values.catalogue_key)
      .sort((a, b) => (a.id < b.id ? 1 : -1))
      .map((entity) => String(entity.values.catalogue_key));
    return matching(catalogue, text, [...new Set([...suggestedKeys, ...met, ...recent])].filter(Boolean)).map((e) => ({
      key: e.key,
      title: e.title,
      line: e.group,
      before: <CodeMark code={e.code} />,
    }));
  }, [catalogue, model, about.id, text]);
}

export default function ObservationDialog({ about }: { about: About }) {
  const box = useRef<HTMLInputElement>(null);
  const catalogue = useCatalogue();
  const lengths = useReference()?.fields.observation;
  const model = useInspection((s) => s.model);
  const subject = model?.entities[about.id];
  const before = about.existing ? model?.entities[about.existing]?.values : undefined;
  const raised = catalogue.find((e) => e.key === (before?.catalogue_key ?? about.raise));
  const [place, setPlace] = useState(
    String(before?.place ?? whereOf(subject?.kind === "check" ? model?.entities[subject.parentId] : subject)),
  );
  const [text, setText] = useState(String(before?.text ?? raised?.title ?? ""));
  const [entry, setEntry] = useState<CatalogueEntry | undefined>(raised);
  // What the verdicts would raise here comes with its code in its context.
  const offer = model?.judgement?.suggested.find(
    (s) => s.key === raised?.key && (s.entity_id === about.id || s.touches.includes(about.id)),
  );
  const decides = useMay("decide");
  const [code, setCode] = useState(
    String(
      before?.code ?? about.code ?? offer?.code ?? (raised && model ? startsWith(model.judgement, about, raised) : ""),
    ),
  );
  const [reason, setReason] = useState(String(before?.code_reason ?? about.reason ?? offer?.moved ?? ""));
  const [onTheDay, setOnTheDay] = useState(before?.mended === true);
  const [asLeft, setAsLeft] = useState(String(before?.as_left ?? ""));
  const [retest, setRetest] = useState(String(before?.retest ?? ""));
  const [trouble, setTrouble] = useState("");

  const options = useOptions(about, text);
  const choosing = !entry || entry.title !== text;

  function choose(key: string) {
    const entry = catalogue.find((e) => e.key === key);
    if (!entry) return;
    setEntry(entry);
    setText(entry.title);
    setCode(startsWith(model?.judgement, about, entry));
    setTrouble("");
  }

  function close() {
    closeObservation();
    const { kind, id, field } = about;
    // Back where the inspector was.
    if (field) {
      focusOn(null);
      queueMicrotask(() => focusOn({ kind, id, field } as Place));
    }
  }

  function save() {
    if (!text.trim()) {
      setTrouble("Type what was found, or choose from the list.");
      return;
    }
    const fields = recorded({ place, text, entry, onTheDay, asLeft, retest, ...(decides && { code, reason }) });
    if (about.existing) {
      for (const [field, value] of Object.entries(fields)) {
        setField(placeOf("observation", about.existing, field), value);
      }
    } else {
      const given = Object.fromEntries(Object.entries(fields).filter(([, value]) => value !== null));
      add("observation", model?.id ?? "", { about_entity: about.kind, about_id: about.id, ...given });
    }
    close();
  }

  function takeOut(id: string) {
    const removed: Place = { kind: "observation", id, field: "removed" };
    setField(removed, true);
    tell("The observation is taken out.", () => setField(removed, null));
    close();
  }

  const { existing } = about;
  const footer = <Footer close={close} save={save} takeOut={existing ? () => takeOut(existing) : undefined} />;
  return (
    <Dialog title="Observation" close={close} first={box} width="40rem" footer={footer}>
      <Flex direction="column" gap="3" onKeyDown={(event) => event.key === "Enter" && event.ctrlKey && save()}>
        <TextField label="Where" value={place} change={setPlace} maxLength={lengths?.place?.max_length} />
        <FilterList
          box={box}
          label="What was found"
          list="Catalogue"
          placeholder="Type a word, or choose below"
          empty="Not in the catalogue: kept in your own words. Choose its code below."
          refused={trouble}
          maxLength={lengths?.text?.max_length}
          text={text}
          type={setText}
          options={options}
          choose={choose}
          enter={save}
          closed={!choosing}
        />
        {!choosing && entry && (
          <Views
            entry={entry}
            code={code}
            reason={reason}
            settle={(settled, why) => {
              setCode(settled);
              setReason(why);
            }}
          />
        )}
        {decides ? (
          <Codes code={code} choose={setCode} />
        ) : (
          <Care>You write down what was found; an inspector or a supervisor gives it its code.</Care>
        )}
        {entry && code && code !== entry.code && (
          <TextField
            label={`Why ${code} rather than ${entry.code}`}
            value={reason}
            change={setReason}
            maxLength={lengths?.code_reason?.max_length}
          />
        )}
        {code === "C1" && (
          <Care>
            C1: tell the person in charge now, make it safe if they agree, and confirm it in writing with the time.
          </Care>
        )}
        <Check checked={onTheDay} change={setOnTheDay}>
          Put right on the day
        </Check>
        {onTheDay && <OnTheDay asLeft={asLeft} setAsLeft={setAsLeft} retest={retest} setRetest={setRetest} />}
      </Flex>
    </Dialog>
  );
}

function Care({ children }: { children: React.ReactNode }) {
  return (
    <Box fontWeight="bold" borderLeftWidth="4px" borderColor="ink" pl="2">
      {children}
    </Box>
  );
}

function Codes({ code, choose }: { code: string; choose: (code: string) => void }) {
  const meanings = useReference()?.code_meanings ?? {};
  const codes = useFieldSpec("observation", "code")?.choices ?? [];
  return (
    <Box role="group" aria-label="Code" display="grid" gridTemplateColumns="repeat(5, 1fr)" gap="2">
      {codes.map((one) => (
        <Button
          key={one}
          variant="plain"
          pressed={one === code}
          title={meanings[one]}
          onClick={() => choose(one === code ? "" : one)}
        >
          <Flex
            direction="column"
            align="center"
            gap="1"
            width="full"
            py="2"
            borderWidth="2px"
            borderRadius="lg"
            borderColor={one === code ? "ink" : "transparent"}
            bg={one === code ? "lamp" : undefined}
            color={one === code ? "onLamp" : undefined}
          >
            <CodeMark code={one} large />
            <Box as="small" display={{ base: "none", md: "block" }} fontWeight="normal">
              {meanings[one]}
            </Box>
          </Flex>
        </Button>
      ))}
    </Box>
  );
}

interface ViewsProps {
  entry: CatalogueEntry;
  code: string;
  reason: string;
  settle: (code: string, reason: string) => void;
}

/** How each school sees it, and what would move its code here. */
function Views({ entry, code, reason, settle }: ViewsProps) {
  return (
    <Box pl="3" borderLeftWidth="3px" borderColor="ink">
      <View name="Usual view" code={entry.code} why={entry.why} />
      {entry.strict !== entry.code && <View name="Stricter" code={entry.strict} why={entry.strict_why} />}
      {entry.mild !== entry.code && <View name="Milder" code={entry.mild} why={entry.mild_why} />}
      {entry.facts.length > 0 ? (
        <Box as="ul" listStyleType="none" mt="1.5" aria-label="What moves it">
          {entry.facts.map((fact) => (
            <Flex as="li" key={fact.fact} wrap="wrap" align="center" columnGap="2.5" rowGap="1" minH="10">
              {fact.ask}
              <Button
                variant="choice"
                size="sm"
                pressed={code === fact.code && reason.includes(fact.says)}
                onClick={() => settle(fact.code, `${fact.code}, since ${fact.says}.`)}
              >
                Yes: {fact.code}
              </Button>
            </Flex>
          ))}
        </Box>
      ) : (
        entry.moves && <p>What moves it: {entry.moves}</p>
      )}
      <p>You decide.</p>
    </Box>
  );
}

function View({ name, code, why }: { name: string; code: string; why: string }) {
  return (
    <p>
      {name} <b>{code}</b>: {why}
    </p>
  );
}

interface OnTheDayProps {
  asLeft: string;
  setAsLeft: (words: string) => void;
  retest: string;
  setRetest: (words: string) => void;
}

function OnTheDay({ asLeft, setAsLeft, retest, setRetest }: OnTheDayProps) {
  const lengths = useReference()?.fields.observation;
  return (
    <>
      <TextField label="As left" value={asLeft} change={setAsLeft} maxLength={lengths?.as_left?.max_length} />
      <TextField
        label="Retest: what was measured, and what it showed"
        value={retest}
        change={setRetest}
        maxLength={lengths?.retest?.max_length}
        hint={!(asLeft.trim() && retest.trim()) && "Without both it still counts to the outcome."}
      />
    </>
  );
}

interface FooterProps {
  close: () => void;
  save: () => void;
  takeOut?: () => void;
}

function Footer({ close, save, takeOut }: FooterProps) {
  return (
    <>
      {takeOut && (
        <Button variant="quiet" onClick={takeOut}>
          Remove
        </Button>
      )}
      <Box flex="1" />
      <Button hotkey="Esc" onClick={close}>
        Back
      </Button>
      <Button variant="action" onClick={save}>
        Save observation
      </Button>
    </>
  );
}
