/** One alternative: its lines with their prices, the total, what it clears, and what stays. */
import { Box, Flex, Text } from "@chakra-ui/react";
import { useState } from "react";
import { CodeMark } from "../drawings/Mark";
import { FieldInput } from "../fields/FieldInput";
import { setField, useInspection } from "../inspection/open";
import { Button } from "../ui/Button";
import { SelectField } from "../ui/SelectField";
import { tell } from "../ui/tell";
import { hours } from "../ui/when";
import { addOwn, type Alternative, money, OWN, type Price, remove } from "./lines";
import type { FieldOf } from "../inspection/types";

interface Props {
  alternative: Alternative;
  prices: Price;
}

export function AlternativeCard({ alternative, prices }: Props) {
  const byId = new Map(prices.open.map((openItem) => [openItem.id, openItem]));
  return (
    <Box borderWidth="2px" borderColor="ink" borderRadius="lg" px="4" py="3">
      <Flex justify="space-between" align="baseline" gap="3">
        <b>Alternative {alternative.number}</b>
        <Box as="span" fontFamily="mono" fontSize="2xl" fontWeight="bold" data-figure="offer-total">
          {money(prices.currency, alternative.price)}
        </Box>
      </Flex>
      <Text color="quiet" mb="1">
        {hours(alternative.minutes)} on site · {alternative.clears.length} cleared
      </Text>
      <Box as="ul" listStyleType="none" aria-label={`Work of alternative ${alternative.number}`}>
        {alternative.lines.map((line) => (
          <Line key={line.id} line={line} prices={prices} />
        ))}
      </Box>
      <Flex gap="2" wrap="wrap" my="2">
        <Button size="sm" onClick={() => addOwn(alternative.number)}>
          Add other work
        </Button>
      </Flex>
      <Text fontWeight="bold">{alternative.says}</Text>
      <Box as="ul" listStyleType="none" aria-label="What stays">
        {alternative.stays.map((id) => (
          <Flex as="li" key={id} gap="2" align="center" py="1">
            <CodeMark code={byId.get(id)?.code || "?"} />
            <span>{[byId.get(id)?.what, byId.get(id)?.where].filter(Boolean).join(", ")}</span>
          </Flex>
        ))}
      </Box>
    </Box>
  );
}

function Line({ line, prices }: { line: Alternative["lines"][number]; prices: Price }) {
  const values = useInspection((s) => s.model?.entities[line.id]?.values);
  const own = values?.remedy === OWN;
  // By hand only where somebody wants it: the firm's rate is the price.
  const [byHand, setByHand] = useState(own);
  const at = (field: FieldOf<"offer_line">) => ({ kind: "offer_line" as const, id: line.id, field });
  return (
    <Box as="li" borderTopWidth="1px" borderColor="line" py="2">
      <Flex justify="space-between" gap="3" align="baseline">
        <Box minW="0">
          <b>{line.label}</b>
          <Text color="quiet" fontSize="sm">
            {[line.where, line.how].filter(Boolean).join(" · ")}
          </Text>
        </Box>
        <Box as="span" fontFamily="mono">
          {line.price === null ? "no price" : money(prices.currency, line.price)}
        </Box>
      </Flex>
      {line.trouble && (
        <Text role="status">
          <b>Not complete:</b> {line.trouble}.
        </Text>
      )}
      {line.spare && <Text role="status">The other lines clear all of it: leave it out?</Text>}
      {(own || byHand) && (
        <Flex direction="column" gap="2" my="2">
          {own && <FieldInput place={at("words")} />}
          {own && (
            <SelectField
              label="Clears observation"
              value={String(values?.observation_id ?? "")}
              choices={[
                ["", "none"],
                ...prices.open.map((openItem) => [openItem.id, `${openItem.code} ${openItem.what}`] as const),
              ]}
              change={(id) => setField(at("observation_id"), id || null)}
            />
          )}
          <FieldInput place={at("price")} label={`Price, ${prices.currency}`} />
        </Flex>
      )}
      <Flex gap="2" wrap="wrap">
        {!own && !byHand && (
          <Button size="sm" variant="quiet" label={`Price by hand: ${line.label}`} onClick={() => setByHand(true)}>
            Price by hand …
          </Button>
        )}
        <Button
          size="sm"
          variant="quiet"
          label={`Remove ${line.label}`}
          onClick={() => tell(`${line.label} is removed.`, remove(line.id))}
        >
          Remove
        </Button>
      </Flex>
    </Box>
  );
}
