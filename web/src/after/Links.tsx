/** Links to a client's page: made for somebody, told once, ended at any time. */
import { Box, Flex, Text } from "@chakra-ui/react";
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { api, answer, type Schemas } from "../api/client";
import { explain, fieldErrors } from "../api/errors";
import { Button } from "../ui/Button";
import { Dialog } from "../ui/Dialog";
import { fieldsOf } from "../ui/fields";
import { Section } from "../ui/Page";
import { SelectField } from "../ui/SelectField";
import { Told } from "../ui/States";
import { TextField } from "../ui/TextField";
import { day } from "../ui/when";
import { ROLES } from "./Copies";

type Link = Schemas["ClientLinkOut"];

interface Props {
  title: string;
  /** What the link shows. */
  lead: string;
  links: Link[];
  name: string;
  make: (body: Schemas["ClientLinkIn"]) => Promise<Schemas["MadeClientLinkOut"]>;
  changed: () => void;
  mayMake: boolean;
  /** For whom one is usually made. */
  usually: Schemas["ClientLinkIn"]["role"];
}

const LASTS = [
  ["30", "30 days"],
  ["180", "half a year"],
  ["1825", "five years"],
] as const;

export function Links({ title, lead, links, name, make, changed, mayMake, usually }: Props) {
  const [open, setOpen] = useState(false);
  const end = useMutation({
    mutationFn: (link: Link) =>
      answer(api.POST("/api/links/{link_id}/end", { params: { path: { link_id: link.id } } })),
    onSettled: changed,
  });
  const good = links.filter((clientLink) => clientLink.good);
  return (
    <Section title={title} lead={lead}>
      <Box as="ul" listStyleType="none" mb="3">
        {good.map((clientLink) => (
          <Flex as="li" key={clientLink.id} align="center" gap="2" py="1" borderTopWidth="1px" borderColor="line">
            <Box flex="1" minW="0">
              <b>{clientLink.name}</b>, {clientLink.role}
              <Text color="quiet" fontSize="sm">
                {clientLink.opened === 0
                  ? "not opened yet"
                  : `opened ${clientLink.opened} times, last ${seen(clientLink)}`}{" "}
                · until {day(clientLink.expires_at.slice(0, 10))}
              </Text>
            </Box>
            {mayMake && (
              <Button
                size="sm"
                variant="quiet"
                label={`End link of ${clientLink.name}`}
                onClick={() => end.mutate(clientLink)}
              >
                End link
              </Button>
            )}
          </Flex>
        ))}
      </Box>
      {end.isError && <Told trouble>{explain(end.error)}</Told>}
      {mayMake && <Button onClick={() => setOpen(true)}>Make a link …</Button>}
      {open && <MakeDialog {...{ name, make, changed, usually }} close={() => setOpen(false)} />}
    </Section>
  );
}

const seen = (link: Link) => day(link.last_opened_at?.slice(0, 10));

function MakeDialog(props: Pick<Props, "name" | "make" | "changed" | "usually"> & { close: () => void }) {
  const { name, make, changed, usually, close } = props;
  const [typed, setTyped] = useState({ role: String(usually), name, days: "180" });
  const [copied, setCopied] = useState(false);
  const link = useMutation({
    mutationFn: () => make({ ...typed, days: Number(typed.days) } as Schemas["ClientLinkIn"]),
    onSuccess: changed,
  });
  const refused = fieldErrors(link.error);
  const of = fieldsOf(typed, setTyped, refused);
  const copy = async (address: string) => {
    await navigator.clipboard.writeText(address);
    setCopied(true);
  };
  return (
    <Dialog
      title="Make a link"
      close={close}
      width="34rem"
      footer={
        link.data ? (
          <Button variant="action" onClick={close}>
            Close
          </Button>
        ) : (
          <>
            <Button variant="quiet" onClick={close}>
              Cancel
            </Button>
            <Button variant="action" busy={link.isPending} disabled={!typed.name.trim()} onClick={() => link.mutate()}>
              Make link
            </Button>
          </>
        )
      }
    >
      {link.data ? (
        <>
          <Text mb="2">Whoever has it can open the page. It is shown this once.</Text>
          <Box fontFamily="mono" overflowWrap="anywhere" bg="half" p="3" borderRadius="lg" mb="3" data-link="">
            {link.data.address}
          </Box>
          <Button onClick={() => link.data && void copy(link.data.address)}>{copied ? "Copied" : "Copy link"}</Button>
        </>
      ) : (
        <Flex direction="column" gap="4">
          <SelectField label="For" choices={ROLES} {...of("role")} />
          <TextField label="Name" maxLength={120} {...of("name")} />
          <SelectField label="Good for" choices={LASTS} {...of("days")} />
          {link.isError && <Told trouble>{explain(link.error)}</Told>}
        </Flex>
      )}
    </Dialog>
  );
}
