/** What stands on the firm's paper, and how long the firm keeps what. */
import { Box, Flex, Image } from "@chakra-ui/react";
import { useState } from "react";
import { api, answer, ofThisPage, Refused, type Schemas } from "../api/client";
import { useReference } from "../api/reference";
import { explain, fieldErrors } from "../api/errors";
import { Unusable } from "../photos/photos";
import { Button } from "../ui/Button";
import { FileButton } from "../ui/FileDrop";
import { Told } from "../ui/States";
import { Section } from "../ui/Page";
import { SelectField } from "../ui/SelectField";
import { TextField } from "../ui/TextField";
import { LOGO_FILES, logoFile } from "./logoFile";

type Firm = Schemas["FirmOut"];
type Paper = Schemas["Letterhead"];

export function Letterhead({ firm, take }: { firm: Firm; take: (next: Firm) => void }) {
  const nations = useReference()?.fields.property?.nation?.choices ?? [];
  const [typed, setTyped] = useState<Paper>(firm.letterhead);
  const [refused, setRefused] = useState<Record<string, string>>({});
  const [message, setTold] = useState("");
  const disabled = !firm.may_change_letterhead;
  const changed = JSON.stringify(typed) !== JSON.stringify(firm.letterhead);
  const keep = async () => {
    setRefused({});
    setTold("");
    try {
      take(await answer(api.PUT("/api/firm/letterhead", { body: typed })));
      setTold("Kept. Reports and letters carry it from now on; what was issued stays as it was.");
    } catch (error) {
      const fields = fieldErrors(error);
      setRefused(Object.keys(fields).length ? fields : { name: explain(error) });
    }
  };
  const of = (field: keyof Paper) => ({
    value: typed[field] ?? "",
    change: (value: string) => setTyped({ ...typed, [field]: value }),
    refused: refused[field],
    disabled,
  });
  return (
    <Section title="Letterhead" first>
      <Box display="grid" gridTemplateColumns={{ base: "1fr", md: "1fr 1fr" }} gap="4" mb="4">
        <TextField label="Firm" maxLength={120} {...of("name")} />
        <TextField label="Phone" maxLength={40} {...of("phone")} />
        <TextField label="Address" maxLength={300} {...of("address")} />
        <TextField label="Email of the firm" type="email" maxLength={190} {...of("email")} />
        <TextField label="Line under the letterhead" maxLength={200} {...of("letter_line")} />
        <SelectField
          label="Nation"
          choices={[["", "not said"], ...nations.map((nation) => [nation, nation] as const)]}
          {...of("nation")}
        />
      </Box>
      {!disabled && (
        <Button onClick={keep} disabled={!changed}>
          Keep the letterhead
        </Button>
      )}
      {message && <Told>{message}</Told>}
      <Logo firm={firm} take={take} />
    </Section>
  );
}

/** The logo as it is printed; a picture goes over white, since paper is. */
function Logo({ firm, take }: { firm: Firm; take: (next: Firm) => void }) {
  const [refused, setRefused] = useState("");
  // Each one taken is asked for anew.
  const [turn, setTurn] = useState(0);
  const change = async (ask: () => Promise<void>) => {
    setRefused("");
    try {
      await ask();
      take(await answer(api.GET("/api/firm")));
      setTurn(turn + 1);
    } catch (error) {
      setRefused(error instanceof Unusable ? error.message : (fieldErrors(error).logo ?? explain(error)));
    }
  };
  const send = async (file: File) => {
    const response = await fetch("/api/firm/logo", {
      method: "PUT",
      body: await logoFile(file),
      headers: ofThisPage(),
    });
    if (response.ok) return;
    const problem = (await response.json()) as Schemas["Problem"];
    throw new Refused(response.status, problem.message, problem);
  };
  return (
    <Box mt="6">
      {firm.logo && (
        <Box bg="white" p="3" borderRadius="lg" display="inline-block" mb="3">
          <Image
            src={`/api/firm/logo?${turn}`}
            alt={`Logo of ${firm.name}`}
            h="4rem"
            maxW="20rem"
            objectFit="contain"
          />
        </Box>
      )}
      {firm.may_change_letterhead && (
        <Flex gap="3">
          <FileButton label="Logo" accept={LOGO_FILES} take={([file]) => file && void change(() => send(file))}>
            <Button>{firm.logo ? "Another logo …" : "Logo …"}</Button>
          </FileButton>
          {firm.logo && (
            <Button
              variant="quiet"
              onClick={() => change(() => answer(api.DELETE("/api/firm/logo")).then(() => undefined))}
            >
              Remove the logo
            </Button>
          )}
        </Flex>
      )}
      {refused && <Told trouble>{refused}</Told>}
    </Box>
  );
}

const LEAD =
  "Years after the last work for somebody. Then a supervisor can erase what is kept of them, on the client's page; " +
  "the history still shows that something changed, not what. Law and contracts may ask for more: check yours.";

export function Retention({ firm, take }: { firm: Firm; take: (next: Firm) => void }) {
  const [data, setData] = useState(String(firm.keep_years));
  const [reports, setReports] = useState(String(firm.keep_reports_years));
  const [refused, setRefused] = useState<Record<string, string>>({});
  const disabled = !firm.may_change_letterhead;
  const whole = (text: string) => (/^\d{1,2}$/.test(text.trim()) ? Number(text) : -1);
  const keep = async () => {
    setRefused({});
    try {
      take(
        await answer(
          api.PUT("/api/firm/retention", { body: { keep_years: whole(data), keep_reports_years: whole(reports) } }),
        ),
      );
    } catch (error) {
      const fields = fieldErrors(error);
      setRefused(Object.keys(fields).length ? fields : { keep_years: explain(error) });
    }
  };
  const changed = whole(data) !== firm.keep_years || whole(reports) !== firm.keep_reports_years;
  return (
    <Section title="Retention" lead={LEAD} first>
      <Flex gap="4" align="flex-end" wrap="wrap">
        <Box w="16rem">
          <TextField
            label="Clients, homes, histories (years)"
            inputMode="numeric"
            value={data}
            change={setData}
            refused={refused.keep_years}
            disabled={disabled}
            figure
          />
        </Box>
        <Box w="16rem">
          <TextField
            label="Issued reports (years)"
            inputMode="numeric"
            value={reports}
            change={setReports}
            refused={refused.keep_reports_years}
            disabled={disabled}
            figure
          />
        </Box>
        {!disabled && (
          <Button onClick={keep} disabled={!changed}>
            Settle
          </Button>
        )}
      </Flex>
    </Section>
  );
}
