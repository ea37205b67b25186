/** The firm's people: who is here and in which role, inviting somebody, and letting somebody go. */
import { Box, Flex, Text } from "@chakra-ui/react";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { api, answer, type Me, type Schemas } from "../api/client";
import { explain, fieldErrors } from "../api/errors";
import { Button } from "../ui/Button";
import { Page, Section } from "../ui/Page";
import { SelectField } from "../ui/SelectField";
import { Loading, Told, Trouble } from "../ui/States";
import { TextField } from "../ui/TextField";
import { Devices } from "./Devices";

type Person = Schemas["PersonOut"];
type Invited = Schemas["InvitedOut"];
type Role = Person["role"];

const QUERY = ["people"];
const ROLES: readonly (readonly [Role, string])[] = [
  ["inspector", "Inspector: inspects, decides, signs"],
  ["supervisor", "Supervisor: that, and settles rules and people"],
  ["office", "Office: register, diary, rates; decides nothing"],
];
const SHORT: readonly (readonly [Role, string])[] = ROLES.map(([role]) => [
  role,
  role[0]!.toUpperCase() + role.slice(1),
]);

export default function People({ me }: { me: Me }) {
  const queries = useQueryClient();
  const people = useQuery({ queryKey: QUERY, queryFn: () => answer(api.GET("/api/people")), staleTime: 0 });
  const [handed, setHanded] = useState<Invited | null>(null);
  const [trouble, setTrouble] = useState("");
  if (people.isPending) return <Loading what="the firm's people" />;
  if (people.isError) return <Trouble message={explain(people.error)} again={() => people.refetch()} />;
  /** Do something, show the list anew, and the link where there is one. */
  const run = async (what: () => Promise<Person | Invited>) => {
    setTrouble("");
    setHanded(null);
    try {
      const result = await what();
      if ("link" in result) setHanded(result);
    } catch (error) {
      setTrouble(explain(error));
    }
    await queries.invalidateQueries({ queryKey: QUERY });
  };
  const here = people.data.filter((one) => one.state !== "ended");
  const ended = people.data.filter((one) => one.state === "ended");
  return (
    <Page title={`People of ${me.firm_name}`}>
      {trouble && <Told trouble>{trouble}</Told>}
      {handed && <Handed handed={handed} />}
      <Box as="ul" listStyleType="none" aria-label="People">
        {here.map((one) => (
          <Row key={one.id} person={one} self={one.id === me.id} run={run} />
        ))}
      </Box>
      <Section title="Invite somebody">
        <Invite done={setHanded} />
      </Section>
      <Section title="Devices" lead="A device that is lost is ended here; what had not arrived is named.">
        <Devices />
      </Section>
      {ended.length > 0 && (
        <Section title="Who has left" lead="What they entered and signed stays under their name.">
          <Box as="ul" listStyleType="none" aria-label="Who has left">
            {ended.map((one) => (
              <Flex
                as="li"
                key={one.id}
                borderTopWidth="1px"
                borderColor="line"
                py="2"
                gap="4"
                align="center"
                wrap="wrap"
              >
                <Box flex="1 1 16rem">
                  <b>{one.name}</b>{" "}
                  <Text as="span" color="quiet">
                    {one.email}
                  </Text>
                </Box>
                <Button
                  label={`Restore access of ${one.name}`}
                  onClick={() =>
                    run(() =>
                      answer(api.POST("/api/people/{person_id}/resume", { params: { path: { person_id: one.id } } })),
                    )
                  }
                >
                  Restore access
                </Button>
              </Flex>
            ))}
          </Box>
        </Section>
      )}
    </Page>
  );
}

function Row({
  person,
  self,
  run,
}: {
  person: Person;
  self: boolean;
  run: (what: () => Promise<Person | Invited>) => Promise<void>;
}) {
  const [asked, setAsked] = useState(false);
  const params = { path: { person_id: person.id } };
  const state = [
    person.state === "invited" && "invited, not yet here",
    person.second_factor && "second factor on",
    self && "you",
  ].filter(Boolean);
  return (
    <Flex as="li" borderTopWidth="1px" borderColor="line" py="3" gap="4" align="center" wrap="wrap">
      <Box flex="1 1 16rem" minW="0">
        <Text fontWeight="600" fontSize="lg">
          {person.name}
        </Text>
        <Text color="quiet" fontSize="sm" overflowWrap="anywhere">
          {[person.email, ...state].join(" · ")}
        </Text>
      </Box>
      <Box w="11rem">
        <SelectField
          quiet
          label={`Role of ${person.name}`}
          value={person.role}
          choices={SHORT}
          change={(role) =>
            run(() => answer(api.PATCH("/api/people/{person_id}", { params, body: { role: role as Role } })))
          }
        />
      </Box>
      <Flex gap="2" wrap="wrap" minW={{ md: "13rem" }}>
        <Button
          label={`New link for ${person.name}`}
          onClick={() => run(() => answer(api.POST("/api/people/{person_id}/link", { params })))}
        >
          New link
        </Button>
        {person.second_factor && !self && (
          <Button
            label={`Turn off two-step sign-in of ${person.name}`}
            onClick={() => run(() => answer(api.POST("/api/people/{person_id}/second-factor-off", { params })))}
          >
            Turn off two-step sign-in
          </Button>
        )}
        {!self && !asked && (
          <Button label={`End access of ${person.name}`} onClick={() => setAsked(true)}>
            End access
          </Button>
        )}
        {asked && (
          <>
            <Button
              variant="action"
              onClick={() => run(() => answer(api.POST("/api/people/{person_id}/end", { params })))}
            >
              Yes, {person.name.split(" ")[0]} has left
            </Button>
            <Button onClick={() => setAsked(false)}>No</Button>
          </>
        )}
      </Flex>
    </Flex>
  );
}

/** A link is shown this one time, or was mailed. */
function Handed({ handed }: { handed: Invited }) {
  const [copied, setCopied] = useState(false);
  const { person, link, mailed } = handed;
  if (mailed) return <Told>A link was mailed to {person.email}.</Told>;
  return (
    <Told>
      <Text fontWeight="700">Hand this link to {person.name}. It is good once, and it is not shown again:</Text>
      <Text fontFamily="mono" my="2" overflowWrap="anywhere" data-link>
        {link}
      </Text>
      <Button
        onClick={async () => {
          await navigator.clipboard?.writeText(link ?? "");
          setCopied(true);
        }}
      >
        {copied ? "Copied" : "Copy"}
      </Button>
    </Told>
  );
}

function Invite({ done }: { done: (handed: Invited) => void }) {
  const queries = useQueryClient();
  const [name, setName] = useState("");
  const [email, setEmail] = useState("");
  const [role, setRole] = useState<Role>("inspector");
  const [refused, setRefused] = useState<Record<string, string>>({});
  const [busy, setBusy] = useState(false);
  async function submit(event: FormEvent) {
    event.preventDefault();
    setBusy(true);
    setRefused({});
    try {
      done(await answer(api.POST("/api/people", { body: { name, email, role } })));
      setName("");
      setEmail("");
    } catch (error) {
      const fields = fieldErrors(error);
      setRefused(Object.keys(fields).length ? fields : { email: explain(error) });
    }
    await queries.invalidateQueries({ queryKey: QUERY });
    setBusy(false);
  }
  return (
    <Box as="form" onSubmit={submit} maxW="46rem">
      <Box display="grid" gridTemplateColumns={{ base: "1fr", md: "1fr 1fr" }} gap="4" mb="4">
        <TextField
          label="Name"
          value={name}
          change={setName}
          refused={refused.name}
          hint="As printed under what they sign."
          maxLength={120}
          required
        />
        <TextField
          label="Email"
          type="email"
          value={email}
          change={setEmail}
          refused={refused.email}
          maxLength={190}
          required
        />
        <SelectField label="Role" value={role} choices={ROLES} change={(next) => setRole(next as Role)} />
      </Box>
      <Button type="submit" variant="action" busy={busy} disabled={!name.trim() || !email.trim()}>
        Invite
      </Button>
    </Box>
  );
}
