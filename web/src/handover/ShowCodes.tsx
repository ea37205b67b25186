/** What waits, as codes in a row: another device reads them with its camera, in any order, from any one on. */
import { Box, Text } from "@chakra-ui/react";
import { useEffect, useState } from "react";
import { encode } from "uqr";
import type { Me } from "../api/client";
import { Dialog } from "../ui/Dialog";
import { Loading, Told } from "../ui/States";
import { bytesOf, NotHandedOver } from "./bundle";
import { fountain } from "./fountain";

/** Bytes of a block: a code that a cheap camera reads at arm's length. */
const BLOCK = 320;
/** So long each is shown, milliseconds: a camera takes its time to see it sharply. */
const EACH = 160;
/** White around a code, in its squares. */
const QUIET = 4;

export default function ShowCodes({ me, close }: { me: Me; close: () => void }) {
  const [stream, setStream] = useState<ReturnType<typeof fountain> | null>(null);
  const [trouble, setTrouble] = useState("");
  const [number, setNumber] = useState(0);
  useEffect(() => {
    void bytesOf(me).then(
      (bytes) => {
        try {
          setStream(fountain(bytes, BLOCK));
        } catch {
          setTrouble("That is more than codes can carry: save it as a file.");
        }
      },
      (error: unknown) => setTrouble(error instanceof NotHandedOver ? error.message : "The codes cannot be made."),
    );
  }, [me]);
  useEffect(() => {
    if (!stream) return;
    const clock = setInterval(() => setNumber((shown) => shown + 1), EACH);
    return () => clearInterval(clock);
  }, [stream]);
  return (
    <Dialog title="Hold the other device’s camera here" close={close} width="36rem">
      {trouble && <Told trouble>{trouble}</Told>}
      {!trouble && !stream && <Loading what="the codes" />}
      {stream && (
        <>
          <Code bytes={stream.code(number)} />
          <Text mt="3" role="status">
            {stream.blocks === 1 ? "One code" : `${stream.blocks} codes`}, shown over and over. Each one that is missed
            is made up for by a later one.
          </Text>
        </>
      )}
    </Dialog>
  );
}

function Code({ bytes }: { bytes: Uint8Array }) {
  const { data, size } = encode(Array.from(bytes), { ecc: "L", border: QUIET });
  const path = data.flatMap((row, y) => row.map((dark, x) => (dark ? `M${x} ${y}h1v1h-1z` : ""))).join("");
  return (
    // Black on white in every theme: a camera reads it.
    <Box bg="white" borderRadius="md" maxW="min(100%, 64dvh)" mx="auto">
      <svg
        viewBox={`0 0 ${size} ${size}`}
        role="img"
        aria-label="A code for the other device"
        shapeRendering="crispEdges"
      >
        <path d={path} fill="#000" />
      </svg>
    </Box>
  );
}
