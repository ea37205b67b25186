/** A list that stands in the page and grows shorter as one types; chosen by tap, or by arrows and Enter. */
import { createListCollection, Input, Listbox } from "@chakra-ui/react";
import { type KeyboardEvent, type RefObject, useMemo, useState } from "react";
import type { Option } from "./ComboboxField";
import { Field } from "./Field";
import type { Words } from "./FieldFrame";

interface Props extends Words {
  text: string;
  type: (text: string) => void;
  options: readonly Option[];
  choose: (key: string) => void;
  /** Enter where nothing of the list is meant. */
  enter: () => void;
  /** The list is not wanted: what was typed is one of its own. */
  closed?: boolean;
  /** What the list is called. */
  list: string;
  empty: string;
  placeholder?: string;
  maxLength?: number;
  box?: RefObject<HTMLInputElement | null>;
}

export function FilterList(props: Props) {
  const { text, type, options, choose, enter, closed, list, empty, placeholder, maxLength, box, ...words } = props;
  const collection = useMemo(
    () =>
      createListCollection({
        items: [...options],
        itemToValue: (option: Option) => option.key,
        itemToString: (option: Option) => option.title,
      }),
    [options],
  );
  const [moved, setMoved] = useState<string | null>(null);
  const lit = options.find((option) => option.key === moved) ?? options[0];
  const key = (event: KeyboardEvent) => {
    if (event.key !== "Enter" || event.nativeEvent.isComposing) return;
    event.preventDefault();
    event.stopPropagation();
    if (!closed && lit && !event.ctrlKey) choose(lit.key);
    else enter();
  };
  return (
    <Listbox.Root
      collection={collection}
      value={[]}
      highlightedValue={lit?.key ?? null}
      onHighlightChange={({ highlightedValue }) => setMoved(highlightedValue)}
      onValueChange={({ value: [chosen] }) => chosen !== undefined && choose(chosen)}
    >
      <Field {...words}>
        <Listbox.Input asChild onKeyDownCapture={key}>
          <Input
            ref={box}
            role="combobox"
            aria-expanded={!closed}
            fontSize="lg"
            placeholder={placeholder}
            maxLength={maxLength}
            value={text}
            onChange={(event) => {
              setMoved(null);
              type(event.target.value);
            }}
          />
        </Listbox.Input>
      </Field>
      {!closed && (
        <Listbox.Content aria-label={list}>
          {options.map((option) => (
            <Listbox.Item key={option.key} item={option}>
              {option.before}
              <Listbox.ItemText>{option.title}</Listbox.ItemText>
              {option.line && <small>{option.line}</small>}
            </Listbox.Item>
          ))}
          {options.length === 0 && <Listbox.Empty>{empty}</Listbox.Empty>}
        </Listbox.Content>
      )}
    </Listbox.Root>
  );
}
