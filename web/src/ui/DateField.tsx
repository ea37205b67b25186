/** A day, typed day first or picked from a calendar; and a time of day. */
import { Box, DatePicker, Input, parseDate, Portal } from "@chakra-ui/react";
import { useState } from "react";
import { Field } from "./Field";
import type { Words } from "./FieldFrame";
import { Icon } from "./Icon";
import { useLeave } from "./useLeave";
import { day, localeOf, readDay, readTime } from "./when";

interface Props extends Words {
  /** `2026-11-25`, or empty. */
  value: string;
  /** Called when the field is left or a day was picked; empty where it was cleared. */
  change: (value: string) => void;
  id?: string;
}

export function DateField({ value, change, id, ...words }: Props) {
  const read = (text: string) => readDay(text);
  return (
    <Typed {...words} value={value} change={change} read={read} shown={day(value)} example="25 11 2026" what="day">
      {(typing) => (
        <DatePicker.Root
          locale={localeOf()}
          startOfWeek={1}
          disabled={words.disabled}
          value={value && readDay(value) ? [parseDate(value)] : []}
          onValueChange={({ value: [picked] }) => picked && typing.pick(picked.toString())}
          positioning={{ placement: "bottom-end" }}
        >
          {/* Beside the picker's own parts, not among them: it would write into the box as the browser likes days. */}
          <Input id={id} {...typing.input} paddingInlineEnd="12" placeholder="day month year" />
          <DatePicker.Control>
            <DatePicker.IndicatorGroup>
              <DatePicker.Trigger aria-label="Calendar">
                <Icon name="calendar" />
              </DatePicker.Trigger>
            </DatePicker.IndicatorGroup>
          </DatePicker.Control>
          <Portal>
            <DatePicker.Positioner>
              <DatePicker.Content>
                {(["day", "month", "year"] as const).map((view) => (
                  <DatePicker.View key={view} view={view}>
                    <DatePicker.ViewControl>
                      <DatePicker.PrevTrigger>
                        <Icon name="back" />
                      </DatePicker.PrevTrigger>
                      <DatePicker.ViewTrigger>
                        <DatePicker.RangeText />
                      </DatePicker.ViewTrigger>
                      <DatePicker.NextTrigger>
                        <Icon name="forward" />
                      </DatePicker.NextTrigger>
                    </DatePicker.ViewControl>
                    {view === "day" && <DatePicker.DayTable />}
                    {view === "month" && <DatePicker.MonthTable />}
                    {view === "year" && <DatePicker.YearTable />}
                  </DatePicker.View>
                ))}
              </DatePicker.Content>
            </DatePicker.Positioner>
          </Portal>
        </DatePicker.Root>
      )}
    </Typed>
  );
}

export function TimeField({ value, change, id, ...words }: Props) {
  return (
    <Typed {...words} value={value} change={change} read={readTime} shown={value} example="09:05" what="time">
      {(typing) => (
        <Box width="7rem">
          <Input id={id} {...typing.input} inputMode="numeric" placeholder="hh:mm" fontVariantNumeric="tabular-nums" />
        </Box>
      )}
    </Typed>
  );
}

interface Typing {
  input: {
    value: string;
    autoComplete: "off";
    onChange: (event: React.ChangeEvent<HTMLInputElement>) => void;
    onBlur: () => void;
    onKeyDown: (event: React.KeyboardEvent) => void;
  };
  pick: (value: string) => void;
}

interface TypedProps extends Props {
  read: (text: string) => string | null;
  shown: string;
  example: string;
  what: string;
  children: (typing: Typing) => React.ReactNode;
}

/** What is typed is read as it is left. What cannot be read stays, with why, and what was there before is kept. */
function Typed({ value, change, read, shown, example, what, children, ...words }: TypedProps) {
  const [draft, setDraft] = useState<string | null>(null);
  const [wrong, setWrong] = useState(false);
  const leave = () => {
    if (draft === null) return;
    const date = draft.trim() === "" ? "" : read(draft);
    setWrong(date === null);
    if (date === null) return;
    setDraft(null);
    if (date !== value) change(date);
  };
  useLeave(leave);
  const refused = wrong ? `That is no ${what}: write it like ${example}.` : words.refused;
  return (
    <Field {...words} refused={refused}>
      {children({
        input: {
          value: draft ?? shown,
          autoComplete: "off",
          onChange: (event) => {
            setDraft(event.target.value);
            setWrong(false);
          },
          onBlur: leave,
          onKeyDown: (event) => event.key === "Enter" && leave(),
        },
        pick: (picked) => {
          setDraft(null);
          setWrong(false);
          change(picked);
        },
      })}
    </Field>
  );
}
