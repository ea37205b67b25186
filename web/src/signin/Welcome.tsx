/** What a link that is good once opens: a firm to set up, a firm to join, or a new password. */
import { Box, Heading, Text } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { api, answer, type Me, Refused, type Schemas } from "../api/client";
import { explain, fieldErrors } from "../api/errors";
import { Button } from "../ui/Button";
import { SelectField } from "../ui/SelectField";
import { Loading, Told, Trouble } from "../ui/States";
import { TextField } from "../ui/TextField";
import { Wordmark } from "../ui/Wordmark";

type Link = Schemas["LinkOut"];

export default function Welcome({ done }: { done: (me: Me) => void }) {
  // The token stands behind the '#': no server, proxy or log on the way gets to see it.
  const [token] = useState(() => window.location.hash.slice(1));
  const link = useQuery({
    queryKey: ["link", token],
    queryFn: () => answer(api.POST("/api/links/look", { body: { token } })),
    retry: false,
    staleTime: Number.POSITIVE_INFINITY,
  });
  if (link.isPending) return <Loading what="your link" />;
  if (link.isError) return <Trouble message={explain(link.error)} again={() => window.location.assign("/")} />;
  return (
    <Box as="main" minH="100dvh" display="grid" placeItems="center" p="5">
      <Box w="full" maxW={link.data.purpose === "set-up" ? "44rem" : "24rem"}>
        <Wordmark large />
        {link.data.purpose === "set-up" ? (
          <SetUp token={token} link={link.data} done={done} />
        ) : (
          <Choose token={token} link={link.data} done={done} />
        )}
      </Box>
    </Box>
  );
}

const HINT = "Ten characters or more; four or five words make a good one.";

function useLink(token: string, done: (me: Me) => void) {
  const [refused, setRefused] = useState<Record<string, string>>({});
  const [trouble, setTrouble] = useState("");
  const [busy, setBusy] = useState(false);
  const send = async (body: Omit<Schemas["UseLink"], "token">) => {
    setBusy(true);
    setRefused({});
    setTrouble("");
    try {
      done(await answer(api.POST("/api/links/use", { body: { token, ...body } })));
    } catch (error) {
      const fields = fieldErrors(error);
      setRefused(fields);
      if (!Object.keys(fields).length) setTrouble(explain(error));
      // The password is kept, and the device's code is asked for where everybody signs in.
      if (error instanceof Refused && error.status === 401) setTimeout(() => window.location.assign("/"), 3000);
    }
    setBusy(false);
  };
  return { refused, trouble, busy, send };
}

function Choose({ token, link, done }: { token: string; link: Link; done: (me: Me) => void }) {
  const [password, setPassword] = useState("");
  const { refused, trouble, busy, send } = useLink(token, done);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    void send({ password });
  };
  return (
    <form onSubmit={submit}>
      <Heading as="h1" fontSize="xl" mt="8" mb="1">
        {link.purpose === "invite" ? `Welcome to ${link.firm_name}` : "Choose a new password"}
      </Heading>
      <Text color="quiet" mb="5">
        {link.name}, {link.email}
      </Text>
      <TextField
        label="Password"
        type="password"
        autoComplete="new-password"
        value={password}
        change={setPassword}
        refused={refused.password}
        hint={HINT}
        required
        autoFocus
      />
      {trouble && <Told trouble>{trouble}</Told>}
      <Box mt="5">
        <Button type="submit" variant="action" busy={busy} disabled={!password}>
          {link.purpose === "invite" ? "Join" : "Keep it and sign in"}
        </Button>
      </Box>
    </form>
  );
}

function SetUp({ token, link, done }: { token: string; link: Link; done: (me: Me) => void }) {
  const [firm, setFirm] = useState({
    name: "",
    address: "",
    phone: "",
    email: "",
    letter_line: "",
    nation: link.nations[0] ?? "",
  });
  const [book, setBook] = useState("");
  const [name, setName] = useState("");
  const [email, setEmail] = useState("");
  const [password, setPassword] = useState("");
  const { refused, trouble, busy, send } = useLink(token, done);
  const of = (field: keyof typeof firm) => ({
    value: firm[field],
    change: (value: string) => setFirm({ ...firm, [field]: value }),
    refused: refused[`firm.${field}`],
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    void send({ password, name, email, rule_book: book || null, firm });
  };
  return (
    <form onSubmit={submit}>
      <Heading as="h1" fontSize="2xl" mt="8" mb="1">
        Set up your firm
      </Heading>
      <Text color="quiet" mb="6">
        What stands on the firm's paper, the rules you mostly work by, and you, its first supervisor. You invite the
        others afterwards; all of it can be changed later.
      </Text>
      <Box display="grid" gridTemplateColumns={{ base: "1fr", md: "1fr 1fr" }} gap="4">
        <TextField label="Firm" maxLength={120} required autoFocus {...of("name")} />
        <TextField label="Phone" maxLength={40} autoComplete="tel" {...of("phone")} />
        <TextField label="Address" maxLength={300} {...of("address")} />
        <TextField label="Email of the firm" type="email" maxLength={190} {...of("email")} />
        <TextField
          label="Line under the letterhead"
          maxLength={200}
          hint="A registration or membership, where you want it on every page."
          {...of("letter_line")}
        />
        <SelectField
          label="Nation"
          choices={link.nations.map((nation) => [nation, nation] as const)}
          {...of("nation")}
        />
        <SelectField
          label="Rule book"
          value={book}
          refused={refused.rule_book}
          choices={[
            ["", "the one of the nation"],
            ...link.rule_books.map((ruleBook) => [ruleBook.key, `${ruleBook.nation}: ${ruleBook.name}`] as const),
          ]}
          change={setBook}
        />
      </Box>
      <Heading as="h2" fontSize="lg" mt="8" mb="3">
        You
      </Heading>
      <Box display="grid" gridTemplateColumns={{ base: "1fr", md: "1fr 1fr" }} gap="4">
        <TextField
          label="Your name"
          value={name}
          change={setName}
          refused={refused.name}
          maxLength={120}
          autoComplete="name"
          hint="As printed under what you sign."
          required
        />
        <TextField
          label="Your email"
          type="email"
          value={email}
          change={setEmail}
          refused={refused.email}
          maxLength={190}
          autoComplete="username"
          required
        />
        <TextField
          label="Password"
          type="password"
          value={password}
          change={setPassword}
          refused={refused.password}
          autoComplete="new-password"
          hint={HINT}
          required
        />
      </Box>
      {trouble && <Told trouble>{trouble}</Told>}
      <Box mt="6">
        <Button
          type="submit"
          variant="action"
          busy={busy}
          disabled={!firm.name.trim() || !name.trim() || !email.trim() || !password}
        >
          Set up and sign in
        </Button>
      </Box>
    </form>
  );
}
