/** Offers: made of the alternatives as they stand, looked at, mailed, and accepted once: then there is a job. */
import { Box, Flex, Heading, Link as ChakraLink, Text } from "@chakra-ui/react";
import { type FormEvent, useState } from "react";
import { api, answer, Refused, type Schemas } from "../api/client";
import { explain, explainField } from "../api/errors";
import { notLeft } from "../letters/told";
import { settled, useInspection } from "../inspection/open";
import { Button, LinkButton } from "../ui/Button";
import { Link } from "../ui/Link";
import { Told } from "../ui/States";
import { NumberField, TextField } from "../ui/TextField";
import { tell } from "../ui/tell";
import { day, hours, moment } from "../ui/when";
import { money, type Price } from "./lines";

type Offer = Schemas["OfferOut"];

export function Offers({ prices, again }: { prices: Price; again: () => void }) {
  return (
    <Box as="section" aria-label="Offers">
      {prices.alternatives.length > 0 && <Make prices={prices} again={again} />}
      {prices.offers.length > 0 && (
        <Heading as="h2" size="md" mb="2">
          Offers made
        </Heading>
      )}
      {[...prices.offers].reverse().map((offer) => (
        <Made key={offer.id} offer={offer} again={again} />
      ))}
    </Box>
  );
}

function Make({ prices, again }: { prices: Price; again: () => void }) {
  const inspection = useInspection((s) => s.model?.id) ?? "";
  const [days, setDays] = useState("30");
  const [busy, setBusy] = useState(false);
  const [trouble, setTrouble] = useState("");
  const lacks = prices.alternatives.flatMap((alternative) => alternative.trouble);
  const make = async () => {
    const valid_days = Number(days);
    if (!Number.isInteger(valid_days) || valid_days < 1) return setTrouble("Enter whole days, such as 30.");
    setBusy(true);
    setTrouble("");
    try {
      await settled();
      const params = { path: { inspection_id: inspection } };
      const made = await answer(api.POST("/api/inspections/{inspection_id}/offers", { params, body: { valid_days } }));
      tell(`Offer ${made.number} is made. Mail it, or print it.`);
      again();
    } catch (error) {
      setTrouble(explain(error));
    }
    setBusy(false);
  };
  return (
    <Box mb="6">
      <Flex gap="3" align="flex-end" wrap="wrap">
        <Box width="9rem">
          <NumberField label="Holds for" unit="days" value={days} change={setDays} maxLength={3} />
        </Box>
        <Button variant="action" busy={busy} disabled={lacks.length > 0} onClick={() => void make()}>
          {lacks.length > 0 ? `Make offer: ${lacks.length} to do` : "Make offer"}
        </Button>
        {lacks.length === 0 && (
          <LinkButton file to={`/api/inspections/${inspection}/offer.pdf`}>
            Look at draft
          </LinkButton>
        )}
      </Flex>
      {trouble && <Told trouble>{trouble}</Told>}
    </Box>
  );
}

function Made({ offer, again }: { offer: Offer; again: () => void }) {
  const inspection = useInspection((s) => s.model?.id) ?? "";
  const [mailing, setMailing] = useState(false);
  const [trouble, setTrouble] = useState("");
  const [differs, setDiffers] = useState<number | null>(null);
  const accept = async (alternative: number, as_offered: boolean) => {
    setTrouble("");
    setDiffers(null);
    try {
      const params = { path: { inspection_id: inspection, offer_id: offer.id } };
      const job = await answer(
        api.POST("/api/inspections/{inspection_id}/offers/{offer_id}/accept", {
          params,
          body: { alternative, as_offered },
        }),
      );
      tell(`Accepted: it is job ${job.number}.`);
      again();
    } catch (error) {
      const code = error instanceof Refused && (error.body as { code?: string } | null)?.code;
      if (code === "differs") setDiffers(alternative);
      setTrouble(explain(error));
    }
  };
  return (
    <Box as="article" aria-label={`Offer ${offer.number}`} borderTopWidth="1px" borderColor="line" py="3">
      <Text>
        <b>{offer.number}</b> of {moment(offer.issued_at)}, holds until {day(offer.valid_until)}
      </Text>
      {offer.alternatives.map((offered) => (
        <Flex key={offered.number} gap="3" align="center" wrap="wrap" py="1">
          <Box flex="1 1 12rem" minW="0">
            {offered.works.join(", ")}
            <Text color="quiet" fontSize="sm">
              {hours(offered.minutes)}
            </Text>
          </Box>
          <Box as="span" fontFamily="mono" fontWeight="bold">
            {money(offer.currency, offered.price)}
          </Box>
          {!offer.job && (
            <Button
              label={`Accepted: alternative ${offered.number} of ${offer.number}`}
              onClick={() => void accept(offered.number, false)}
            >
              Accepted
            </Button>
          )}
        </Flex>
      ))}
      {offer.job ? (
        <Text>
          Alternative {offer.job.alternative} accepted: it is{" "}
          <ChakraLink asChild>
            <Link to={`/job/${offer.job.id}`}>job {offer.job.number}</Link>
          </ChakraLink>
          .
        </Text>
      ) : (
        offer.moved.length > 0 && <Text role="status">Since then: {offer.moved.join(" ")}</Text>
      )}
      {trouble && <Told trouble>{trouble}</Told>}
      {differs !== null && <Button onClick={() => void accept(differs, true)}>Accept as offered</Button>}
      <Flex gap="2" wrap="wrap" mt="1.5">
        <LinkButton file to={`/api/reports/${offer.id}.pdf`}>
          Print
        </LinkButton>
        {!mailing && <Button onClick={() => setMailing(true)}>Mail …</Button>}
      </Flex>
      {mailing && <Mail offer={offer} close={() => setMailing(false)} />}
    </Box>
  );
}

function Mail({ offer, close }: { offer: Offer; close: () => void }) {
  const inspection = useInspection((s) => s.model?.id) ?? "";
  const [to, setTo] = useState("");
  const [busy, setBusy] = useState(false);
  const [trouble, setTrouble] = useState("");
  const send = async (event: FormEvent) => {
    event.preventDefault();
    setBusy(true);
    setTrouble("");
    try {
      const params = { path: { inspection_id: inspection, offer_id: offer.id } };
      const sent = await answer(
        api.POST("/api/inspections/{inspection_id}/offers/{offer_id}/mail", { params, body: { to } }),
      );
      setTrouble(notLeft(sent));
      if (sent.state === "sent") {
        tell(`Offer ${offer.number} is sent to ${to}.`);
        close();
      }
    } catch (error) {
      setTrouble(explainField(error, "to"));
    }
    setBusy(false);
  };
  return (
    <form onSubmit={send}>
      <Flex gap="3" wrap="wrap" align="flex-end" mt="2">
        <Box flex="1 1 14rem">
          <TextField label="Mail offer to" type="email" value={to} change={setTo} refused={trouble} />
        </Box>
        <Button type="submit" variant="action" busy={busy} disabled={!to.trim()}>
          Send offer
        </Button>
        <Button onClick={close}>Cancel</Button>
      </Flex>
    </form>
  );
}
