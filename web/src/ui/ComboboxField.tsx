/** Type ahead: what fits stands below while one types; chosen by tap, or by arrows and Enter. */
import { Combobox, createListCollection, Portal } from "@chakra-ui/react";
import { forwardRef, type ReactNode, useMemo } from "react";
import { Field } from "./Field";
import type { Words } from "./FieldFrame";

export interface Option {
  key: string;
  /** What is chosen, in words. */
  title: string;
  /** Stands before the words: a code, what kind of thing it is. */
  before?: ReactNode;
  /** Stands behind them, in quiet. */
  line?: string;
}

interface Props extends Words {
  text: string;
  /** What is typed now; the caller says which options fit it. */
  type: (text: string) => void;
  options: readonly Option[];
  choose: (key: string) => void;
  /** Enter while nothing is chosen from the list: the words themselves. */
  enter?: (text: string) => void;
  placeholder?: string;
  /** What the list is called. */
  list: string;
  /** What to say where nothing fits. */
  empty?: ReactNode;
  maxLength?: number;
  autoFocus?: boolean;
  /** What fits is shown from the beginning, as it would be after the next letter. */
  open?: boolean;
}

export const ComboboxField = forwardRef<HTMLInputElement, Props>(function ComboboxField(
  { text, type, options, choose, enter, list, placeholder, empty, maxLength, autoFocus, open, ...words },
  ref,
) {
  const collection = useMemo(
    () =>
      createListCollection({
        items: [...options],
        itemToValue: (option: Option) => option.key,
        itemToString: (option: Option) => option.title,
      }),
    [options],
  );
  return (
    <Field {...words}>
      <Combobox.Root
        collection={collection}
        inputValue={text}
        value={[]}
        disabled={words.disabled}
        defaultOpen={open}
        openOnClick={options.length > 0}
        allowCustomValue
        selectionBehavior="preserve"
        inputBehavior={enter ? "none" : "autohighlight"}
        onInputValueChange={({ inputValue, reason }) => reason !== "item-select" && type(inputValue)}
        onValueChange={({ value: [key] }) => key !== undefined && choose(key)}
      >
        <Combobox.Control>
          <Combobox.Input
            ref={ref}
            placeholder={placeholder}
            maxLength={maxLength}
            // The caller opens it on purpose: the box is what was asked for.
            autoFocus={autoFocus}
            aria-label={words.quiet ? words.label : undefined}
            onKeyDown={(event) => {
              const chosen = event.currentTarget.getAttribute("aria-activedescendant");
              if (event.key !== "Enter" || chosen || event.nativeEvent.isComposing) return;
              event.preventDefault();
              enter?.(text);
            }}
          />
        </Combobox.Control>
        <Portal>
          <Combobox.Positioner>
            {(options.length > 0 || empty) && (
              <Combobox.Content aria-label={list} aria-labelledby="">
                {empty && <Combobox.Empty>{empty}</Combobox.Empty>}
                {options.map((option) => (
                  <Combobox.Item key={option.key} item={option}>
                    {option.before}
                    <Combobox.ItemText fontWeight="semibold">{option.title}</Combobox.ItemText>
                    {option.line && <span style={{ color: "var(--d-colors-quiet)" }}>{option.line}</span>}
                  </Combobox.Item>
                ))}
              </Combobox.Content>
            )}
          </Combobox.Positioner>
        </Portal>
      </Combobox.Root>
    </Field>
  );
});
