/** The PIN of this device, on keys as large as a glove: what is kept here can be read once it is said. */
import { Box, Flex, Grid, Heading, Text } from "@chakra-ui/react";
import { useEffect, useRef, useState } from "react";
import { openVault, TRIES, unlock, useVault, wipe } from "../api/vault";
import { Button } from "../ui/Button";
import { Dialog } from "../ui/Dialog";
import { Wordmark } from "../ui/Wordmark";

const KEYS = ["1", "2", "3", "4", "5", "6", "7", "8", "9", "⌫", "0", "OK"] as const;
const LONGEST = 10;

export default function Lock({ done }: { done: () => void }) {
  const { state, left } = useVault();
  const [pin, setPin] = useState("");
  const [busy, setBusy] = useState(false);
  const [wrong, setWrong] = useState(false);
  const [asked, setAsked] = useState(false);
  useEffect(() => void openVault(), []);
  useEffect(() => {
    if (state === "open" || state === "bare") done();
  }, [state, done]);

  async function open() {
    if (pin.length < 4 || busy) return;
    setBusy(true);
    const right = await unlock(pin);
    setBusy(false);
    setPin("");
    setWrong(!right);
  }

  function press(key: string) {
    if (busy) return;
    setWrong(false);
    if (key === "OK") void open();
    else if (key === "⌫") setPin(pin.slice(0, -1));
    else if (pin.length < LONGEST) setPin(pin + key);
  }

  // A keyboard does the same: what it last heard of is in hand here.
  const latest = useRef(press);
  useEffect(() => {
    latest.current = press;
  });
  useEffect(() => {
    function keyDown(event: KeyboardEvent) {
      const key = event.key === "Enter" ? "OK" : event.key === "Backspace" ? "⌫" : event.key;
      if (!(KEYS as readonly string[]).includes(key) || event.ctrlKey || event.metaKey || event.altKey) return;
      event.preventDefault();
      latest.current(key);
    }
    document.addEventListener("keydown", keyDown);
    return () => document.removeEventListener("keydown", keyDown);
  }, []);

  return (
    <Box as="main" minH="100dvh" display="grid" placeItems="center" p="5">
      <Box w="full" maxW="22rem">
        <Wordmark large />
        <Heading as="h1" fontSize="xl" mt="6" mb="3">
          PIN of this device
        </Heading>
        <Flex
          role="status"
          aria-label={`${pin.length} figures typed`}
          h="14"
          mb="2"
          gap="3"
          align="center"
          justify="center"
          borderWidth="2px"
          borderColor="ink"
          borderRadius="lg"
          bg="sheet"
        >
          {Array.from(pin, (_, at) => (
            <Box key={at} w="3" h="3" borderRadius="full" bg="ink" />
          ))}
        </Flex>
        <Text role="alert" minH="12" mb="2">
          {wrong && (
            <>
              <b>That is not the PIN.</b> {left === 1 ? "One try is left" : `${left} tries are left`}; then this device
              is wiped, with what was not sent.
            </>
          )}
          {!wrong && left < TRIES && `${left} tries are left.`}
        </Text>
        <Grid templateColumns="repeat(3, 1fr)" gap="2.5" css={{ "& button": { minHeight: "68px", fontSize: "24px" } }}>
          {KEYS.map((key) => (
            <Button
              key={key}
              size="tile"
              variant={key === "OK" ? "action" : "outline"}
              label={key === "⌫" ? "Take back" : key === "OK" ? "Open" : key}
              busy={key === "OK" && busy}
              disabled={key === "OK" && pin.length < 4}
              onClick={() => press(key)}
            >
              {key}
            </Button>
          ))}
        </Grid>
        <Box mt="6">
          <Button variant="quiet" onClick={() => setAsked(true)}>
            Forgotten the PIN?
          </Button>
        </Box>
      </Box>
      {asked && (
        <Dialog title="Wipe this device" close={() => setAsked(false)} width="28rem">
          <Text mb="4">
            <b>What was not sent to the server is lost.</b> Nobody can read it without the PIN. The server keeps all
            that has arrived; you sign in again with your password.
          </Text>
          <Flex gap="3" wrap="wrap">
            <Button variant="action" onClick={() => void wipe()}>
              Wipe and sign in again
            </Button>
            <Button onClick={() => setAsked(false)}>Cancel</Button>
          </Flex>
        </Dialog>
      )}
    </Box>
  );
}
