/** The PIN of this device: chosen, changed or taken off by who knows it. */
import { Box, Flex, Text } from "@chakra-ui/react";
import { useEffect, useState } from "react";
import { choosePin, openVault, PIN, TRIES, useVault } from "../api/vault";
import { Button } from "../ui/Button";
import { Dialog } from "../ui/Dialog";
import { TextField } from "../ui/TextField";

export function Pin() {
  const { state, hasPin } = useVault();
  const [asked, setAsked] = useState<"choose" | "change" | "off" | null>(null);
  useEffect(() => void openVault(), []);
  if (state === "bare")
    return (
      <Text>
        <b>Nothing is sealed here.</b> This address has no TLS, or this browser keeps nothing: what is on this device
        can be read by whoever has it. Open Dorrik by its https address.
      </Text>
    );
  return (
    <>
      <Flex align="center" gap="4" wrap="wrap">
        <Box flex="1 1 16rem" role="status">
          {hasPin ? (
            <>
              <b>Sealed, with a PIN.</b> It is asked for when Dorrik is opened, and after five minutes out of sight.{" "}
              {TRIES} wrong ones wipe this device.
            </>
          ) : (
            <>
              <b>Sealed by this browser, without a PIN.</b> Whoever can unlock this device can read it. Choose a PIN
              where you take it along.
            </>
          )}
        </Box>
        {hasPin ? (
          <>
            <Button onClick={() => setAsked("change")}>Change PIN</Button>
            <Button variant="quiet" onClick={() => setAsked("off")}>
              Take off
            </Button>
          </>
        ) : (
          <Button onClick={() => setAsked("choose")}>Choose a PIN</Button>
        )}
      </Flex>
      {asked && <Ask what={asked} close={() => setAsked(null)} />}
    </>
  );
}

const TITLES = { choose: "Choose a PIN", change: "Change PIN", off: "Take off the PIN" } as const;

function Ask({ what, close }: { what: "choose" | "change" | "off"; close: () => void }) {
  const left = useVault((s) => s.left);
  const [now, setNow] = useState("");
  const [next, setNext] = useState("");
  const [again, setAgain] = useState("");
  const [trouble, setTrouble] = useState<{ now?: string; next?: string; again?: string }>({});
  const [busy, setBusy] = useState(false);
  async function save() {
    const problems: typeof trouble = {};
    if (what !== "off" && !PIN.test(next)) problems.next = "Four to ten figures.";
    else if (what !== "off" && next !== again) problems.again = "That is not the same PIN.";
    setTrouble(problems);
    if (Object.keys(problems).length) return;
    setBusy(true);
    const right = await choosePin(now, what === "off" ? null : next).catch(() => false);
    setBusy(false);
    if (right) close();
    else setTrouble({ now: `That is not the PIN. ${left - 1} tries are left; then this device is wiped.` });
  }
  const figures = { type: "password", inputMode: "numeric", autoComplete: "off", maxLength: 10 } as const;
  return (
    <Dialog title={TITLES[what]} close={close} width="26rem">
      {what !== "choose" && (
        <Box mb="3">
          <TextField label="PIN now" value={now} change={setNow} refused={trouble.now} {...figures} />
        </Box>
      )}
      {what !== "off" && (
        <>
          <Box mb="3">
            <TextField
              label="New PIN"
              value={next}
              change={setNext}
              refused={trouble.next}
              hint="Four to ten figures. Nobody can tell you it again: without it what was not sent is lost."
              {...figures}
            />
          </Box>
          <Box mb="3">
            <TextField label="New PIN again" value={again} change={setAgain} refused={trouble.again} {...figures} />
          </Box>
        </>
      )}
      {what === "choose" && trouble.now && <Text role="alert">{trouble.now}</Text>}
      <Flex gap="3" mt="4">
        <Button variant="action" busy={busy} onClick={() => void save()}>
          {TITLES[what]}
        </Button>
        <Button onClick={close}>Cancel</Button>
      </Flex>
    </Dialog>
  );
}
