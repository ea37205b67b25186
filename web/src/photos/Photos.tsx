/** Photos of one thing: taken or chosen, shown small, opened large beside the work, marked, and how they are printed. */
import { Box, Flex } from "@chakra-ui/react";
import { useState } from "react";
import { Fields } from "../fields/Fields";
import { children } from "../inspection/model";
import { setField, useInspection } from "../inspection/open";
import { useOutbox } from "../inspection/waiting";
import type { Entity, Kind, Place } from "../inspection/types";
import { Button } from "../ui/Button";
import { FileButton } from "../ui/FileDrop";
import { Told } from "../ui/States";
import { tell } from "../ui/tell";
import { MarkedPhoto } from "./MarkedPhoto";
import { MarkUp } from "./MarkUp";
import { PHOTO_FILES, takeIn } from "./photos";

interface Props {
  kind: Kind;
  id: string;
  /** What such a photo shows: a board's chart, a defect. */
  shows: string;
  label: string;
  /** Stands in a row of a list: no margin of its own, and standing back. */
  inline?: boolean;
  /** Only those that show this: as found and as left stand apart. */
  only?: boolean;
  /** What is decided by looking stands large enough to look at. */
  big?: boolean;
}

export function Photos({ kind, id, shows, label, inline, only, big }: Props) {
  const model = useInspection((s) => s.model);
  const unsent = useOutbox((s) => s.photos);
  const [trouble, setTrouble] = useState<string[]>([]);
  const [taking, setTaking] = useState(0);
  const [open, setOpen] = useState<string | null>(null);
  const [marking, setMarking] = useState(false);
  const inspection = model?.id ?? "";
  const barred = model?.entities[inspection]?.values.no_photos === true;
  if (!model) return null;
  const photos = children(model, "photo", inspection).filter(
    (photo) => photo.values.about_id === id && (!only || (photo.values.shows ?? "defect") === shows),
  );
  const take = async (files: File[]) => {
    setTrouble([]);
    setTaking(files.length);
    setTrouble(await takeIn(inspection, files, { kind, id, shows }, setTaking));
    setTaking(0);
  };
  const large = photos.find((photo) => photo.id === open);
  const refused = photos.flatMap((photo) => unsent[String(photo.values.sha256)] || []);
  const takeOut = (photo: Entity) => {
    const removed: Place = { kind: "photo", id: photo.id, field: "removed" };
    setField(removed, true);
    tell("The photo is taken out.", () => setField(removed, null));
  };
  return (
    <Flex wrap="wrap" gap="2" align="center" px={inline ? "0" : "4"} pt={inline ? "0.5" : "0"} pb={inline ? "0" : "3"}>
      {photos.map((photo) => (
        <Button
          key={photo.id}
          variant="plain"
          size="bare"
          label={`Open ${label.toLowerCase()}`}
          pressed={photo.id === open}
          onClick={() => setOpen(photo.id === open ? null : photo.id)}
        >
          <MarkedPhoto
            photo={photo}
            inspection={inspection}
            alt={String(photo.values.caption ?? label)}
            size={big ? "medium" : "small"}
          />
        </Button>
      ))}
      {barred && <Box color="quiet">No photos may be taken here.</Box>}
      {!barred && (
        <FileButton label={label} accept={PHOTO_FILES} several take={take}>
          <Button variant={inline ? "quiet" : "outline"}>
            {taking > 0 ? `Shrinking, ${taking} to go …` : `+ ${label}`}
          </Button>
        </FileButton>
      )}
      {trouble.length > 0 && (
        <Told trouble>
          {trouble.map((one, at) => (
            <p key={at}>{one}</p>
          ))}
        </Told>
      )}
      {refused.length > 0 && (
        <Told trouble>The server will not have a photo; it is kept here. {refused.join(" ")}</Told>
      )}
      {large && (
        <Box as="figure" flexBasis="100%">
          <MarkedPhoto photo={large} inspection={inspection} alt={String(large.values.caption ?? label)} />
          <Box maxW="34rem" mt="3">
            <Fields kind="photo" id={large.id} fields={[{ field: "caption", wide: true }, "shows", "print_size"]} />
          </Box>
          <Flex gap="2" wrap="wrap">
            <Button onClick={() => setMarking(true)}>Arrows, rings, numbers …</Button>
            <Button variant="quiet" onClick={() => takeOut(large)}>
              Remove photo
            </Button>
          </Flex>
        </Box>
      )}
      {large && marking && <MarkUp id={large.id} inspection={inspection} close={() => setMarking(false)} />}
    </Flex>
  );
}
