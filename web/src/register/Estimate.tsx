/** Time and price of a job as bars of their parts, with each part in words and figures below. */
import { Box, Flex, Grid, Link as ChakraLink, Text } from "@chakra-ui/react";
import type { Schemas } from "../api/client";
import { Link } from "../ui/Link";
import { Told } from "../ui/States";
import { hours } from "../ui/when";

type EstimateOut = Schemas["EstimateOut"];

export function Estimate({ estimate }: { estimate: EstimateOut }) {
  const money = (value: number) => `${estimate.currency}${value.toFixed(2)}`;
  return (
    <>
      <Grid templateColumns={{ base: "1fr", md: "1fr 1fr" }} columnGap="10" rowGap="6" mb="3">
        <Parts
          name="Time"
          total={hours(estimate.minutes)}
          parts={estimate.time.filter((part) => part.value > 0)}
          shown={(value) => `${Math.round(value)} min`}
        />
        <Parts name="Price" total={money(estimate.price)} parts={estimate.parts} shown={money} />
      </Grid>
      {estimate.too_much_for_a_day && <Told>That is more than one inspector's day: plan two, or two inspectors.</Told>}
      <Text color="quiet">
        By the house rates, which stand under{" "}
        <ChakraLink asChild>
          <Link to="/firm/rates">House rules</Link>
        </ChakraLink>
        .
      </Text>
    </>
  );
}

interface PartsProps {
  name: string;
  total: string;
  parts: EstimateOut["parts"];
  shown: (value: number) => string;
}

/** Weights of ink, from full to empty, so that neighbours differ without colour. */
const INKS = ["ink", "quiet", "faint", "line"];

function Parts({ name, total, parts, shown }: PartsProps) {
  const whole = parts.reduce((sum, part) => sum + part.value, 0) || 1;
  return (
    <Box as="section" aria-label={name}>
      <Flex justify="space-between" align="baseline" mb="1.5">
        <b>{name}</b>
        <Box as="b" fontFamily="mono" fontSize="xl">
          {total}
        </Box>
      </Flex>
      <Flex height="6" gap="2px" aria-hidden="true" mb="2">
        {parts.map((part, at) => (
          <Box
            key={part.name}
            width={`${(part.value / whole) * 100}%`}
            minW="3px"
            bg={INKS[at % INKS.length]}
            borderRadius="sm"
          />
        ))}
      </Flex>
      <Box as="ul" listStyleType="none">
        {parts.map((part, at) => (
          <Flex as="li" key={part.name} align="center" gap="2.5" py="0.5">
            <Box width="3" height="3" flex="none" borderRadius="sm" bg={INKS[at % INKS.length]} aria-hidden="true" />
            <Box flex="1">
              {part.name}{" "}
              <Box as="span" color="quiet" fontSize="sm">
                {part.how}
              </Box>
            </Box>
            <Box as="span" fontFamily="mono">
              {shown(part.value)}
            </Box>
          </Flex>
        ))}
      </Box>
    </Box>
  );
}
