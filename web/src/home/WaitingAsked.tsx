/** Signing out while something waits on this device is asked about. */
import { Text } from "@chakra-ui/react";
import { Button } from "../ui/Button";
import { Dialog } from "../ui/Dialog";

export interface WaitingProps {
  /** Entries and photos; and signatures that go after them. */
  waiting: number;
  signatures: number;
  close: () => void;
  signOut: () => void;
}

const count = (n: number, single: string, many: string): string[] =>
  n === 0 ? [] : [n === 1 ? `one ${single}` : `${n} ${many}`];

export default function WaitingAsked({ waiting, signatures, close, signOut }: WaitingProps) {
  const what = [...count(waiting, "entry", "entries"), ...count(signatures, "signature", "signatures")].join(" and ");
  return (
    <Dialog
      title={waiting ? "Sign out with entries waiting?" : "Sign out with a signature waiting?"}
      close={close}
      width="30rem"
      footer={
        <>
          <Button onClick={close}>Stay signed in</Button>
          <Button variant="action" onClick={signOut}>
            Sign out, keep them here
          </Button>
        </>
      }
    >
      <Text>
        <b>
          {what.charAt(0).toUpperCase() + what.slice(1)} {waiting + signatures === 1 ? "has" : "have"} not reached the
          server.
        </b>{" "}
        What waits stays on this device, is shown to nobody else, and is sent when you sign in here again.
      </Text>
    </Dialog>
  );
}
