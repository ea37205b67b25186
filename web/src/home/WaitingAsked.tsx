/** Signing out while entries wait on this device is asked about. */
import { Text } from "@chakra-ui/react";
import { Button } from "../ui/Button";
import { Dialog } from "../ui/Dialog";

export interface WaitingProps {
  waiting: number;
  close: () => void;
  signOut: () => void;
}

export default function WaitingAsked({ waiting, close, signOut }: WaitingProps) {
  return (
    <Dialog
      title="Sign out with entries waiting?"
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
        <b>{waiting === 1 ? "One entry has" : `${waiting} entries have`} not reached the server.</b> What waits stays on
        this device, is shown to nobody else, and is sent when you sign in here again.
      </Text>
    </Dialog>
  );
}
