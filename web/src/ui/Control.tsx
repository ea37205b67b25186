/** The control of one field, drawn by its kind: buttons for few choices, a list for many, a box for what is typed. */
import { chakra, Flex } from "@chakra-ui/react";
import { useEffect, useRef, useState } from "react";
import type { FieldSpec } from "../api/client";
import type { Value } from "../inspection/types";

const control = {
  w: "full",
  minH: "44px",
  px: "3",
  py: "2",
  borderWidth: "1.5px",
  borderColor: "line",
  borderRadius: "6px",
  bg: "sheet",
  color: "ink",
} as const;

/** Few enough choices to stand side by side as buttons. */
export const isShort = (spec: FieldSpec) => spec.kind === "choice" && spec.choices.length <= 5;

interface ControlProps {
  id: string;
  spec: FieldSpec;
  value: Value;
  keep: (value: Value) => void;
  rows?: number;
  words?: Record<string, string>;
  refused?: string;
}

export function Control({ id, spec, value, keep, rows, words, refused }: ControlProps) {
  const described = refused ? { "aria-invalid": true, "aria-describedby": `${id}-refused` } : {};
  if (spec.kind === "flag") {
    return (
      <Flex gap="2" role="group" aria-labelledby={`${id}-label`}>
        <Toggle on={value === true} onClick={() => keep(value === true ? null : true)}>
          Yes
        </Toggle>
        <Toggle on={value === false} onClick={() => keep(value === false ? null : false)}>
          No
        </Toggle>
      </Flex>
    );
  }
  if (isShort(spec)) {
    return (
      <Flex gap="2" wrap="wrap" role="group" aria-labelledby={`${id}-label`}>
        {spec.choices.map((choice) => (
          <Toggle key={choice} on={value === choice} onClick={() => keep(value === choice ? null : choice)}>
            {words?.[choice] ?? choice}
          </Toggle>
        ))}
      </Flex>
    );
  }
  if (spec.kind === "choice") {
    return (
      <chakra.select id={id} {...control} {...described} value={String(value ?? "")} onChange={(e) => keep(e.target.value || null)}>
        <option value="">not yet</option>
        {spec.choices.map((choice) => (
          <option key={choice} value={choice}>
            {words?.[choice] ?? choice}
          </option>
        ))}
      </chakra.select>
    );
  }
  return <Typed id={id} spec={spec} value={value} rows={rows} keep={keep} described={described} />;
}

function Toggle({ on, onClick, children }: { on: boolean; onClick: () => void; children: React.ReactNode }) {
  return (
    <chakra.button
      type="button"
      aria-pressed={on}
      onClick={onClick}
      minH="44px"
      px="4"
      borderRadius="6px"
      borderWidth="1.5px"
      borderColor={on ? "ink" : "line"}
      bg={on ? "ink" : "sheet"}
      color={on ? "onInk" : "ink"}
      fontWeight={on ? "700" : "400"}
    >
      {children}
    </chakra.button>
  );
}

interface TypedProps {
  id: string;
  spec: FieldSpec;
  value: Value;
  rows?: number;
  keep: (value: Value) => void;
  described: object;
}

function Typed({ id, spec, value, rows, keep, described }: TypedProps) {
  const [draft, setDraft] = useState<string | null>(null);
  const latest = useRef<{ draft: string | null; keep: typeof keep }>({ draft, keep });
  useEffect(() => {
    latest.current = { draft, keep };
  });
  // What is typed when the screen goes away, or the tablet is put to sleep, is kept as if the field had been left.
  useEffect(() => {
    const save = () => {
      const { draft: typed, keep: keepNow } = latest.current;
      if (typed !== null) keepNow(typed.trim() || null);
    };
    window.addEventListener("pagehide", save);
    return () => {
      window.removeEventListener("pagehide", save);
      save();
    };
  }, []);
  const leave = () => {
    if (draft === null) return;
    keep(draft.trim() || null);
    setDraft(null);
  };
  const shared = {
    id,
    ...control,
    ...described,
    value: draft ?? String(value ?? ""),
    onBlur: leave,
    autoComplete: "off",
  };
  if (spec.kind === "date") {
    return <chakra.input type="date" {...shared} onChange={(e) => setDraft(e.target.value)} />;
  }
  if (rows) return <chakra.textarea rows={rows} {...shared} onChange={(e) => setDraft(e.target.value)} />;
  const numeric = spec.kind === "number" || spec.kind === "integer";
  return (
    <chakra.input
      type="text"
      inputMode={numeric ? "decimal" : "text"}
      fontFamily={numeric ? "mono" : undefined}
      {...shared}
      onChange={(e) => setDraft(e.target.value)}
      onKeyDown={(e) => e.key === "Enter" && leave()}
    />
  );
}
