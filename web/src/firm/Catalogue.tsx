/** The catalogue of observations as the firm has it: built-in entries, what it changed of them, and its own. */
import { Box, Flex, Text } from "@chakra-ui/react";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, answer, type CatalogueEntry, type Schemas } from "../api/client";
import { explain, fieldErrors } from "../api/errors";
import { useFieldSpec } from "../api/reference";
import { CodeMark } from "../drawings/Mark";
import { matching } from "../inspection/catalogue";
import { Button, LinkButton } from "../ui/Button";
import { ButtonsField } from "../ui/ChoiceField";
import { Dialog } from "../ui/Dialog";
import { FileButton } from "../ui/FileDrop";
import { FieldGrid, Wide } from "../ui/Page";
import { Loading, Told, Trouble } from "../ui/States";
import { TextField } from "../ui/TextField";
import { tell } from "../ui/tell";
import { day } from "../ui/when";

type Whole = Schemas["FirmCatalogue"];
type Said = Record<string, string>;

const FILES = { "text/csv": [".csv"], "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet": [".xlsx"] };

export function Catalogue() {
  const queries = useQueryClient();
  const catalogue = useQuery({ queryKey: ["catalogue"], queryFn: () => answer(api.GET("/api/firm/catalogue")) });
  const [text, setText] = useState("");
  const [editing, setEditing] = useState<{ key: string | null; entry?: CatalogueEntry } | null>(null);
  const [taken, setTaken] = useState<Schemas["TakenOut"] | null>(null);
  const [trouble, setTrouble] = useState("");
  if (catalogue.isPending) return <Loading what="the catalogue" />;
  if (catalogue.isError) return <Trouble message={explain(catalogue.error)} again={() => catalogue.refetch()} />;
  const whole = catalogue.data;
  const take = (next: Whole) => queries.setQueryData(["catalogue"], next);
  const own = new Map(whole.own.map((one) => [one.key, one]));
  const shown = matching(whole.entries, text, []);
  const load = async ([file]: File[]) => {
    if (!file) return;
    setTrouble("");
    try {
      const changes = await answer(
        api.POST("/api/firm/catalogue/table", {
          params: { query: { name: file.name.slice(0, 200) } },
          body: file as never,
          bodySerializer: (body: unknown) => body as BodyInit,
          headers: { "Content-Type": "application/octet-stream" },
        }),
      );
      setTaken(changes);
      take(changes.catalogue);
    } catch (error) {
      setTrouble(explain(error));
    }
  };
  return (
    <>
      <Box color="quiet" maxW="46rem" mb="4">
        Inspections begun from now on have what stands here; those that were begun, and every report that was issued,
        keep what they had.{!whole.may_settle && " A supervisor of your firm settles it."}
      </Box>
      <Flex gap="3" wrap="wrap" align="flex-end" mb="4">
        <Box flex="1 1 14rem">
          <TextField label="Find an entry" value={text} change={setText} placeholder="crack, bond, downlight …" />
        </Box>
        <LinkButton file to="/api/firm/catalogue/own.csv">
          Export CSV
        </LinkButton>
        {whole.may_settle && (
          <>
            <FileButton label="Import CSV" accept={FILES} take={(files) => void load(files)}>
              <Button>Import CSV …</Button>
            </FileButton>
            <Button variant="action" onClick={() => setEditing({ key: null })}>
              New entry
            </Button>
          </>
        )}
      </Flex>
      {trouble && <Told trouble>{trouble}</Told>}
      {taken && <Taken taken={taken} />}
      <Box as="ul" listStyleType="none">
        {shown.map((entry) => {
          const mine = own.get(entry.key);
          return (
            <Flex
              as="li"
              key={entry.key}
              gap="3"
              py="2.5"
              align="center"
              wrap="wrap"
              borderTopWidth="1px"
              borderColor="line"
            >
              <CodeMark code={entry.code} large />
              <Box flex="1 1 14rem" minW="0">
                <b>{entry.title}</b>
                <Text color="quiet" fontSize="sm">
                  {entry.group} · stricter {entry.strict}, milder {entry.mild}
                  {mine && ` · ${mine.built_in ? "changed" : "the firm's own"}, ${mine.author}, ${day(mine.made_at)}`}
                </Text>
              </Box>
              {whole.may_settle && (
                <Button size="sm" label={`Change ${entry.title}`} onClick={() => setEditing({ key: entry.key, entry })}>
                  Change
                </Button>
              )}
            </Flex>
          );
        })}
      </Box>
      {editing && (
        <Entry
          key={editing.key ?? "new"}
          of={editing.key}
          entry={editing.entry}
          said={editing.key ? own.get(editing.key)?.says : undefined}
          builtIn={editing.key ? (own.get(editing.key)?.built_in ?? true) : false}
          take={take}
          close={() => setEditing(null)}
        />
      )}
    </>
  );
}

function Taken({ taken }: { taken: Schemas["TakenOut"] }) {
  if (taken.wrong.length === 0) {
    const message = taken.changed === 0 ? "No changes in this file." : `${taken.changed} imported.`;
    return <Told>{message}</Told>;
  }
  return (
    <Told trouble>
      <p>Not imported: {taken.wrong.length === 1 ? "one line is" : `${taken.wrong.length} lines are`} wrong.</p>
      <ul>
        {taken.wrong.map((one, at) => (
          <li key={at}>
            Line {String(one.line)}: {String(one.message)}
          </li>
        ))}
      </ul>
    </Told>
  );
}

interface EntryProps {
  of: string | null;
  entry?: CatalogueEntry;
  /** What the firm says of it already. */
  said?: Said;
  builtIn: boolean;
  take: (next: Whole) => void;
  close: () => void;
}

/** One entry: what is left empty follows from the built-in one, or from its code. */
function Entry({ of, entry, said, builtIn, take, close }: EntryProps) {
  const [values, setValues] = useState<Said>(said ?? {});
  const [wrong, setWrong] = useState<Said>({});
  const [trouble, setTrouble] = useState("");
  const codes = (useFieldSpec("observation", "code")?.choices ?? []).map((choice) => [choice, choice] as const);
  const set = (name: string) => (text: string) => setValues({ ...values, [name]: text });
  const usual = (name: keyof CatalogueEntry) => (builtIn && entry ? String(entry[name]) : undefined);
  const refuse = (error: unknown) => {
    setWrong(fieldErrors(error));
    setTrouble(explain(error, "What you typed is still here."));
  };
  const key = of ?? keyOf(values.title ?? "");
  const keep = async () => {
    const body = Object.fromEntries(Object.entries(values).filter(([, text]) => text.trim()));
    try {
      take(await answer(api.PUT("/api/firm/catalogue/{key}", { params: { path: { key } }, body })));
      tell("The entry is kept.");
      close();
    } catch (error) {
      refuse(error);
    }
  };
  const withdraw = async () => {
    try {
      take(await answer(api.DELETE("/api/firm/catalogue/{key}", { params: { path: { key } } })));
      close();
    } catch (error) {
      refuse(error);
    }
  };
  const line = (name: keyof CatalogueEntry, label: string, rows?: number) => (
    <TextField
      label={label}
      value={values[name] ?? ""}
      change={set(name)}
      placeholder={usual(name)}
      refused={wrong[name]}
      maxLength={300}
      rows={rows}
    />
  );
  const code = (name: "code" | "strict" | "mild", label: string) => (
    <ButtonsField
      label={label}
      value={values[name] ?? usual(name) ?? null}
      choices={codes}
      change={(chosen) => set(name)(chosen ?? "")}
      refused={wrong[name]}
    />
  );
  return (
    <Dialog
      title={entry ? `Change: ${entry.title}` : "New entry of the catalogue"}
      close={close}
      width="44rem"
      footer={
        <>
          {said && (
            <Button variant="quiet" onClick={() => void withdraw()}>
              {builtIn ? "As it was built in" : "Remove entry"}
            </Button>
          )}
          <Box flex="1" />
          <Button onClick={close}>Back</Button>
          <Button variant="action" onClick={() => void keep()}>
            Keep it
          </Button>
        </>
      }
    >
      {trouble && <Told trouble>{trouble}</Told>}
      <FieldGrid>
        <Wide>{line("title", "Title")}</Wide>
        {line("group", "Group")}
        {line("words", "What else people call it")}
        <Wide>{line("look", "What to look or measure for", 2)}</Wide>
        {code("code", "Usual code")}
        {line("why", "Because")}
        {code("strict", "Stricter view")}
        {line("strict_why", "Because")}
        {code("mild", "Milder view")}
        {line("mild_why", "Because")}
        <Wide>{line("plain", "In plain words for the landlord", 2)}</Wide>
        <Wide>{line("remedy", "Usual remedy", 2)}</Wide>
      </FieldGrid>
    </Dialog>
  );
}

/** A key out of a title, as the server makes one for a line of a table. */
const keyOf = (title: string) =>
  `own-${
    title
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, "-")
      .replace(/^-|-$/g, "")
      .slice(0, 50)
      .replace(/-$/, "") || "entry"
  }`;
