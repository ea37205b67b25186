/** What the firm has settled once: rule book, house rules, rates, corrected tables, letterhead and times of keeping. */
import { Box, Flex } from "@chakra-ui/react";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate, useParams } from "react-router";
import { api, answer, type Me, type Schemas } from "../api/client";
import { explain } from "../api/errors";
import { useReference } from "../api/reference";
import { type Chosen, HouseRules } from "../rules/HouseRules";
import { Button } from "../ui/Button";
import { Page, Section } from "../ui/Page";
import { Loading, Told, Trouble } from "../ui/States";
import { Tabs } from "../ui/Tabs";
import { Catalogue } from "./Catalogue";
import { Corrections } from "./Corrections";
import { Letterhead, Retention } from "./Letterhead";
import { FirmPaper } from "./FirmPaper";
import { MailServer } from "./MailServer";
import { Rates } from "./Rates";
import { RepairRates } from "./RepairRates";
import { Transfer } from "./Transfer";

type Firm = Schemas["FirmOut"];

export default function FirmScreen({ me }: { me: Me }) {
  const { part = "rules" } = useParams();
  const navigate = useNavigate();
  const queries = useQueryClient();
  const firm = useQuery({ queryKey: ["firm"], queryFn: () => answer(api.GET("/api/firm")), staleTime: 0 });
  const reference = useReference();
  if (firm.isPending || !reference) return <Loading what="the house rules" />;
  if (firm.isError) return <Trouble message={explain(firm.error)} again={() => firm.refetch()} />;
  const settings = firm.data;
  const take = (next: Firm) => queries.setQueryData(["firm"], next);
  const parts = [
    { key: "rules", name: "Rules", children: <Rules firm={settings} take={take} /> },
    {
      key: "rates",
      name: "Rates and prices",
      children: (
        <>
          <Rates />
          <RepairRates />
        </>
      ),
    },
    { key: "tables", name: "Reference tables", children: <Corrections firm={settings} take={take} /> },
    { key: "catalogue", name: "Catalogue", children: <Catalogue /> },
    { key: "letterhead", name: "Letterhead", children: <Letterhead firm={settings} take={take} /> },
    {
      key: "mail",
      name: "Mail and numbers",
      children: (
        <>
          <MailServer />
          <FirmPaper />
        </>
      ),
    },
    {
      key: "keeping",
      name: "Keeping",
      children: (
        <>
          <Retention firm={settings} take={take} />
          <Transfer mayExport={me.may.includes("export data")} mayImport={settings.may_settle} />
        </>
      ),
    },
  ];
  return (
    <Page title={`House rules of ${settings.name}`}>
      <Tabs
        label="What is settled"
        chosen={part}
        choose={(key) => navigate(`/firm/${key}`, { replace: true })}
        parts={parts}
      />
    </Page>
  );
}

function Rules({ firm, take }: { firm: Firm; take: (next: Firm) => void }) {
  const reference = useReference();
  const [trouble, setTrouble] = useState("");
  const settle = async (rules: Schemas["FirmRules"]) => {
    try {
      take(await answer(api.PUT("/api/firm/rules", { body: rules })));
      setTrouble("");
    } catch (error) {
      setTrouble(explain(error));
    }
  };
  const rules = { rule_book: firm.rule_book, house_rules: firm.house_rules };
  return (
    <>
      <Box color="quiet" maxW="46rem" mb="4">
        Careful inspectors differ on these. New inspections begin with what stands here, record what they used, and the
        report says so.
        {!firm.may_settle && " A supervisor of your firm settles them."}
      </Box>
      {trouble && <Told trouble>{trouble}</Told>}
      <Section title="Rule book" first>
        <Flex wrap="wrap" gap="2" role="group" aria-label="Rule book">
          {reference?.rule_books.map((book, i) => (
            <Button
              key={book.key}
              variant="choice"
              disabled={!firm.may_settle}
              pressed={firm.rule_book ? firm.rule_book === book.key : i === 0}
              onClick={() => settle({ ...rules, rule_book: i === 0 ? null : book.key })}
            >
              {book.nation}: {book.name}
            </Button>
          ))}
        </Flex>
      </Section>
      <Section title="House rules">
        <HouseRules
          chosen={firm.house_rules as Chosen}
          disabled={!firm.may_settle}
          choose={(next) => settle({ ...rules, house_rules: next })}
        />
      </Section>
      <Box color="quiet" fontSize="sm">
        {reference?.caution}
      </Box>
    </>
  );
}
