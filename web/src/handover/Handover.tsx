/** Handing what waits to another device, or taking it from one, where there is no internet. */
import { Box, Flex, Text } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import type { Me } from "../api/client";
import { useOutbox } from "../inspection/waiting";
import { Button } from "../ui/Button";
import { FileButton } from "../ui/FileDrop";
import { loaded } from "../ui/Loaded";
import { Line, Lines } from "../ui/Page";
import { Told } from "../ui/States";
import { moment } from "../ui/when";
import { countWaiting, fileOf, NotHandedOver, type Received, readFile } from "./bundle";
import { letGo, openTaken, takeIn, useTaken } from "./taken";

const ShowCodes = loaded("the codes", () => import("./ShowCodes").then((m) => m.default));
const ReadCodes = loaded("the camera", () => import("./ReadCodes").then((m) => m.default));

const countOf = (n: number, one: string, many: string) => `${n} ${n === 1 ? one : many}`;
const entriesOf = (n: number) => countOf(n, "entry", "entries");

export function Handover({ me }: { me: Me }) {
  const [trouble, setTrouble] = useState("");
  const [came, setCame] = useState("");
  const [open, setOpen] = useState<"show" | "read" | null>(null);
  const changes = useOutbox((s) => s.changes);
  const photos = useOutbox((s) => s.photos);
  const waits = useQuery({ queryKey: ["handover", me.id, changes, photos], queryFn: () => countWaiting(me) }).data;
  useEffect(() => void openTaken(), []);

  async function tried(what: () => Promise<void>) {
    setTrouble("");
    setCame("");
    try {
      await what();
    } catch (error) {
      setTrouble(error instanceof NotHandedOver ? error.message : "That did not work. Nothing was lost; try again.");
    }
  }
  const take = async (received: Received) => {
    const { author, entries, photos: pictures } = await takeIn(received, me.firm_id);
    setCame(`${entriesOf(entries)} and ${countOf(pictures, "photo", "photos")} of ${author} are on this device now.`);
  };

  return (
    <>
      {trouble && <Told trouble>{trouble}</Told>}
      {came && <Told>{came}</Told>}
      <Flex gap="3" wrap="wrap" mb="3">
        <Button disabled={!waits?.entries} onClick={() => setOpen("show")}>
          Show as codes
        </Button>
        <Button disabled={!waits?.entries && !waits?.photos} onClick={() => void tried(() => save(me))}>
          Save as a file
        </Button>
        <Button onClick={() => setOpen("read")}>Read codes with the camera</Button>
        <FileButton
          label="Take a file that another device handed over"
          accept={["application/octet-stream", ".dorrik"]}
          take={([file]) => file && void tried(async () => take(await readFile(file)))}
        >
          <Button>Take a file</Button>
        </FileButton>
      </Flex>
      <Text color="quiet" mb="3">
        What is handed over stays here too, until the server has it; it counts once. Codes carry entries, a file carries
        photos as well. Whoever has the file can read it.
      </Text>
      <TakenList />
      {open === "show" && <ShowCodes me={me} close={() => setOpen(null)} />}
      {open === "read" && (
        <ReadCodes
          close={() => setOpen(null)}
          done={(received) => {
            setOpen(null);
            void tried(() => take(received));
          }}
        />
      )}
    </>
  );
}

async function save(me: Me): Promise<void> {
  const address = URL.createObjectURL(await fileOf(me));
  const link = document.createElement("a");
  link.href = address;
  link.download = `dorrik-${new Date().toISOString().slice(0, 16).replace(/\D/g, "")}.dorrik`;
  link.click();
  setTimeout(() => URL.revokeObjectURL(address), 60_000);
}

/** What was taken along for others, and how far it is. */
function TakenList() {
  const taken = useTaken((s) => s.taken);
  if (!taken.length) return null;
  return (
    <Lines label="Taken along for others">
      {taken.map((one) => (
        <Line key={one.id}>
          <Box flex="1 1 16rem">
            <b>
              {entriesOf(one.entries)} of {one.author}
            </b>
            <Box color="quiet">taken {moment(one.takenAt)}</Box>
          </Box>
          <Box flex="1 1 14rem" role="status">
            {one.refused ?? (one.arrived ? arrivedOf(one.arrived) : "Waits for the server")}
          </Box>
          {(one.refused ?? one.arrived) && (
            <Button
              size="sm"
              variant="quiet"
              label={`Clear ${entriesOf(one.entries)} of ${one.author}`}
              onClick={() => void letGo(one.id)}
            >
              Clear
            </Button>
          )}
        </Line>
      ))}
    </Lines>
  );
}

function arrivedOf({
  kept,
  already,
  refused,
}: {
  kept: number;
  already: number;
  refused: { reason: string }[];
}): string {
  const parts = [`${entriesOf(kept)} arrived`];
  if (already) parts.push(`${already} had arrived before`);
  if (refused.length) parts.push(`${refused.length} not accepted: ${refused[0]?.reason ?? ""}`);
  return parts.join("; ");
}
