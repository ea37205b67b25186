/** Signing without a server: the signature waits on this device, for what stands here and nothing else. */
import { Box, Flex, Text } from "@chakra-ui/react";
import { useState } from "react";
import type { Me } from "../api/client";
import { useInspection, useMay } from "../inspection/open";
import { useSigned } from "../inspection/signatures";
import { sign, takeBack } from "../inspection/signed";
import { Button } from "../ui/Button";
import { Told } from "../ui/States";
import { moment } from "../ui/when";
import { type Signature, SignatureField } from "./SignatureField";

export function SignHere({ me, hindered }: { me: Me; hindered: boolean }) {
  const id = useInspection((s) => s.model?.id) ?? "";
  const state = useInspection((s) => s.model?.state);
  const waits = useInspection((s) => s.model?.pending.some((p) => !p.refused)) ?? false;
  const signed = useSigned((s) => s[id]);
  const signs = useMay("submit");
  const [signature, setSignature] = useState<Signature | null>(null);
  const [failed, setFailed] = useState(false);
  if (signed)
    return (
      <>
        {signed.refused ? (
          <Told trouble>
            <b>Your signature of {moment(signed.at)} does not count.</b> {signed.refused}
          </Told>
        ) : (
          <Text mb="3">
            <b>Signed {moment(signed.at)} on this device.</b> It is submitted for review once everything that you signed
            for has arrived. What is entered from now on asks for your signature again.
          </Text>
        )}
        <Button onClick={() => void takeBack(id)}>{signed.refused ? "Sign again" : "Take the signature back"}</Button>
      </>
    );
  if (!signs) return <p>An inspector or a supervisor signs, while the inspection is not on hold.</p>;
  if (state === "in review" && !waits) return <p>It is signed and submitted. A supervisor reads it.</p>;
  const keep = () => {
    if (signature) sign(signature).catch(() => setFailed(true));
  };
  return (
    <Box>
      <Text mb="3">
        The server cannot be reached. You can sign here: your signature waits on this device and goes with what you
        entered.
      </Text>
      <Box mb="3">
        <SignatureField name={me.name} change={setSignature} />
      </Box>
      <Flex wrap="wrap" gap="3" align="center">
        <Button variant="action" disabled={!signature || hindered} onClick={keep}>
          Sign; submit later
        </Button>
        {hindered && <span>Read the draft below, and deal with the points above, before you sign.</span>}
      </Flex>
      {failed && <Told trouble>This device cannot keep the signature: its storage is full.</Told>}
    </Box>
  );
}
