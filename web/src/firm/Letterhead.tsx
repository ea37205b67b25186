/** What stands on the firm's paper, and how long the firm keeps what. */
import { Box, Flex, Text } from "@chakra-ui/react";
import { useState } from "react";
import { api, answer, type Schemas } from "../api/client";
import { useReference } from "../api/reference";
import { fieldsOf, wordsOf } from "../api/words";
import { Do } from "../ui/Do";
import { ChoiceField, TextField } from "../ui/TextField";
import { Told } from "../ui/Told";

type Firm = Schemas["FirmOut"];
type Paper = Schemas["Letterhead"];

export function Letterhead({ firm, take }: { firm: Firm; take: (next: Firm) => void }) {
  const nations = useReference()?.fields.property?.nation?.choices ?? [];
  const [typed, setTyped] = useState<Paper>(firm.letterhead);
  const [refused, setRefused] = useState<Record<string, string>>({});
  const [told, setTold] = useState("");
  const disabled = !firm.may_change_letterhead;
  const changed = JSON.stringify(typed) !== JSON.stringify(firm.letterhead);
  const keep = async () => {
    setRefused({});
    setTold("");
    try {
      take(await answer(api.PUT("/api/firm/letterhead", { body: typed })));
      setTold("Kept. Reports and letters carry it from now on; what was issued stays as it was.");
    } catch (error) {
      const fields = fieldsOf(error);
      setRefused(Object.keys(fields).length ? fields : { name: wordsOf(error) });
    }
  };
  const of = (field: keyof Paper) => ({
    value: typed[field] ?? "",
    change: (value: string) => setTyped({ ...typed, [field]: value }),
    refused: refused[field],
    disabled,
  });
  return (
    <section>
      <h2>Letterhead</h2>
      <Box display="grid" gridTemplateColumns={{ base: "1fr", md: "1fr 1fr" }} gap="4" mb="4">
        <TextField label="Firm" maxLength={120} {...of("name")} />
        <TextField label="Phone" maxLength={40} {...of("phone")} />
        <TextField label="Address" maxLength={300} {...of("address")} />
        <TextField label="Email of the firm" type="email" maxLength={190} {...of("email")} />
        <TextField label="Line under the letterhead" maxLength={200} {...of("letter_line")} />
        <ChoiceField label="Nation" choices={[["", "not said"], ...nations.map((one) => [one, one] as const)]} {...of("nation")} />
      </Box>
      {!disabled && (
        <Do onClick={keep} disabled={!changed}>
          Keep the letterhead
        </Do>
      )}
      {told && <Told>{told}</Told>}
    </section>
  );
}

export function Retention({ firm, take }: { firm: Firm; take: (next: Firm) => void }) {
  const [data, setData] = useState(String(firm.keep_years));
  const [reports, setReports] = useState(String(firm.keep_reports_years));
  const [refused, setRefused] = useState<Record<string, string>>({});
  const disabled = !firm.may_change_letterhead;
  const whole = (text: string) => (/^\d{1,2}$/.test(text.trim()) ? Number(text) : -1);
  const keep = async () => {
    setRefused({});
    try {
      take(await answer(api.PUT("/api/firm/retention", { body: { keep_years: whole(data), keep_reports_years: whole(reports) } })));
    } catch (error) {
      const fields = fieldsOf(error);
      setRefused(Object.keys(fields).length ? fields : { keep_years: wordsOf(error) });
    }
  };
  const changed = whole(data) !== firm.keep_years || whole(reports) !== firm.keep_reports_years;
  return (
    <section>
      <h2>How long what is kept</h2>
      <Text color="quiet" mb="3" maxW="46rem">
        Years after the last work for somebody. Then a supervisor can erase what is kept of them, on the client's page; that there was a change stays, what it said goes. Law and contracts may ask for more: check yours.
      </Text>
      <Flex gap="4" align="flex-end" wrap="wrap">
        <Box w="16rem">
          <TextField label="Clients, homes, histories (years)" inputMode="numeric" value={data} change={setData} refused={refused.keep_years} disabled={disabled} mono />
        </Box>
        <Box w="16rem">
          <TextField label="Issued reports (years)" inputMode="numeric" value={reports} change={setReports} refused={refused.keep_reports_years} disabled={disabled} mono />
        </Box>
        {!disabled && (
          <Do onClick={keep} disabled={!changed}>
            Settle
          </Do>
        )}
      </Flex>
    </section>
  );
}
