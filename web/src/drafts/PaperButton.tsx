/** Opens a paper: as PDF from the server, or where it cannot be reached as a draft that this device makes. */
import { Text } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { type ReactNode, useState } from "react";
import { isAway, useReach } from "../inspection/transport";
import { Button, LinkButton } from "../ui/Button";
import { Dialog } from "../ui/Dialog";
import { Progress, Told } from "../ui/States";
import { type Draft, whyNot } from "./draft";
import { DraftPages } from "./DraftPages";

interface Props {
  /** Where the server has it. */
  to: string;
  title: string;
  make: () => Promise<Draft>;
  /** Before the server is asked, as to have what was typed a moment ago arrive. */
  before?: () => Promise<unknown>;
  /** The screen is shown as it was kept here: the server was not there for it. */
  asKept?: boolean;
  children: ReactNode;
}

export function PaperButton({ to, title, make, before, asKept = false, children }: Props) {
  const away = useReach((s) => isAway(s.reach)) || asKept;
  const [open, setOpen] = useState(false);
  if (!away && !open) {
    if (!before)
      return (
        <LinkButton file to={to}>
          {children}
        </LinkButton>
      );
    return <Button onClick={() => void before().then(() => window.location.assign(to))}>{children}</Button>;
  }
  return (
    <>
      <Button onClick={() => setOpen(true)}>{children}</Button>
      {open && (
        <Dialog title={title} close={() => setOpen(false)} width="52rem">
          <Shown of={to} make={make} />
        </Dialog>
      )}
    </>
  );
}

function Shown({ of, make }: { of: string; make: () => Promise<Draft> }) {
  const draft = useQuery({ queryKey: ["paper draft", of], queryFn: make, gcTime: 0, retry: false });
  return (
    <>
      <Text mb="3">
        A draft, made on this device from what is here. Nothing is sent: print or mail it once the server answers.
      </Text>
      {draft.isPending && <Progress label="Setting the draft …" />}
      {draft.isError && <Told trouble>{whyNot(draft.error)}</Told>}
      {draft.data && <DraftPages pages={draft.data.pages} />}
    </>
  );
}
