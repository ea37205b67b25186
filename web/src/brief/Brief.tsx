/** The brief: who asked and why, where, how far, and what was agreed to be left out. */
import { Box } from "@chakra-ui/react";
import type { Me } from "../api/client";
import { useReference } from "../api/reference";
import { Fields } from "../fields/Fields";
import { setField, useInspection, useMay } from "../inspection/open";
import { Agreed } from "../limits/Agreed";
import { SetAsides } from "../limits/SetAside";
import { EarlierPapers } from "../papers/EarlierPapers";
import { type Chosen, HouseRules } from "../rules/HouseRules";
import { LinkButton } from "../ui/Button";
import { Fold } from "../ui/Fold";
import { Section } from "../ui/Page";
import { StageBody, StageHead } from "../ui/StageHead";
import { Instruments } from "./Instruments";
import { Concerns } from "./Concerns";
import { Hold, OnSite } from "./OnSite";

export default function Brief({ me }: { me: Me }) {
  const id = useInspection((s) => s.model?.id) ?? "";
  return (
    <>
      <StageHead title="Brief" line="saved as you go" />
      <StageBody>
        <Section title="The job" first>
          <Fields
            kind="inspection"
            id={id}
            fields={[
              "reference",
              "inspected_on",
              {
                field: "property_address",
                label: "Property",
                hint: "Street first: it names the inspection on every screen.",
                wide: true,
              },
              "client_name",
              "client_address",
              "occupier_name",
              { field: "installation_name", hint: "House, or an outbuilding with its own earthing." },
              { field: "tenure", wide: true },
              { field: "purpose", wide: true },
              { field: "nation", wide: true },
            ]}
          />
        </Section>
        <OnSite inspection={id} me={me} />
        <Hold inspection={id} me={me} />
        <Section title="Copy from an earlier report">
          <EarlierPapers />
        </Section>
        <Section title="What was agreed">
          <Fields
            kind="inspection"
            id={id}
            fields={[
              {
                field: "extent",
                rows: 3,
                hint: "What is in, how many points are opened, which boards and buildings.",
                wide: true,
              },
              { field: "power_off", hint: "From when to when, as agreed with the occupier." },
              { field: "must_stay_on", hint: "Medical equipment, freezer, fish." },
              { field: "access", wide: true },
              { field: "no_photos", hint: "Then no screen offers one, and the report says why there are none." },
            ]}
          />
        </Section>
        <Concerns inspection={id} />
        <Section title="How much will be opened">
          <Fields
            kind="inspection"
            id={id}
            fields={[
              { field: "records", hint: "Earlier reports and certificates, and how far they can be relied on." },
              "condition_on_sight",
            ]}
          />
          <LinkButton variant="quiet" to={`/inspection/${id}/walk?view=sample`}>
            Risk and sample
          </LinkButton>
        </Section>
        <Agreed />
        <SetAsides />
        <Instruments inspection={id} />
        <Section title="Rules for this inspection">
          <Rules inspection={id} />
        </Section>
      </StageBody>
    </>
  );
}

function Rules({ inspection }: { inspection: string }) {
  const books = useReference()?.rule_books ?? [];
  const chosen = (useInspection((s) => s.model?.entities[inspection]?.values.house_rules) ?? {}) as Chosen;
  const differing = Object.keys(chosen).length;
  const settles = useMay("settle rules of an inspection");
  const choose = (next: Chosen) =>
    setField({ kind: "inspection", id: inspection, field: "house_rules" }, Object.keys(next).length ? next : null);
  return (
    <>
      <Fields
        kind="inspection"
        id={inspection}
        fields={[
          {
            field: "rule_book",
            hint: "Where nothing is chosen, the first.",
            words: Object.fromEntries(books.map((book) => [book.key, `${book.nation}: ${book.name}`])),
            wide: true,
          },
          chosen.lead_method === "subtracted" && {
            field: "leads_ohm",
            hint: "Taken off every continuity reading of this inspection.",
          },
        ]}
      />
      <Fold
        title={`House rules: ${differing === 0 ? "none differ from the usual" : `${differing} ${differing === 1 ? "differs" : "differ"} from the usual`}`}
      >
        {!settles && (
          <Box color="quiet" mb="3">
            They come from the firm; a supervisor changes them.
          </Box>
        )}
        <HouseRules chosen={chosen} disabled={!settles} choose={choose} />
      </Fold>
    </>
  );
}
