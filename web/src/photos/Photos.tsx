/** Photos of one thing: taken or chosen, shown small, opened large beside the work. */
import { Box, Flex, Image } from "@chakra-ui/react";
import { useEffect, useState } from "react";
import { children } from "../inspection/model";
import { add, setField, useInspection } from "../inspection/open";
import type { Entity, Kind } from "../inspection/types";
import { Button } from "../ui/Button";
import { FileButton } from "../ui/FileDrop";
import { Told } from "../ui/States";
import { tell } from "../ui/toaster";
import { keep, shrink, source, Unusable } from "./photos";

interface Props {
  kind: Kind;
  id: string;
  /** What such a photo shows: a board's chart, a defect. */
  shows: string;
  label: string;
  /** Stands in a row of a list: no margin of its own, and standing back. */
  inline?: boolean;
}

export function Photos({ kind, id, shows, label, inline }: Props) {
  const model = useInspection((s) => s.model);
  const [trouble, setTrouble] = useState("");
  const [busy, setBusy] = useState(false);
  const [open, setOpen] = useState<string | null>(null);
  const inspection = model?.id ?? "";
  if (!model) return null;
  const found = children(model, "photo", inspection).filter((one) => one.values.about_id === id);
  const take = async (files: File[]) => {
    setTrouble("");
    setBusy(true);
    for (const file of files) {
      try {
        const sha256 = await keep(inspection, await shrink(file));
        const taken_at = new Date().toISOString();
        add("photo", inspection, { about_entity: kind, about_id: id, shows, sha256, taken_at });
      } catch (error) {
        setTrouble(error instanceof Unusable ? error.message : "This device has no room to keep the photo.");
      }
    }
    setBusy(false);
  };
  const large = found.find((one) => one.id === open);
  const takeOut = (photo: Entity) => {
    const removed = { kind: "photo" as const, id: photo.id, field: "removed" };
    setField(removed, true);
    tell("The photo is taken out.", () => setField(removed, null));
  };
  return (
    <Flex wrap="wrap" gap="2" align="center" px={inline ? "0" : "4"} pt={inline ? "0.5" : "0"} pb={inline ? "0" : "3"}>
      {found.map((one) => (
        <Button
          key={one.id}
          variant="plain"
          size="bare"
          label={`Open ${label.toLowerCase()}`}
          pressed={one.id === open}
          onClick={() => setOpen(one.id === open ? null : one.id)}
        >
          <Picture photo={one} inspection={inspection} alt={String(one.values.caption ?? label)} small />
        </Button>
      ))}
      <FileButton label={label} accept={["image/*"]} several take={take}>
        <Button variant={inline ? "quiet" : "outline"}>{busy ? "Shrinking …" : `+ ${label}`}</Button>
      </FileButton>
      {trouble && <Told trouble>{trouble}</Told>}
      {large && (
        <Box as="figure" flexBasis="100%">
          <Picture photo={large} inspection={inspection} alt={label} />
          <Button variant="quiet" onClick={() => takeOut(large)}>
            Take this photo out
          </Button>
        </Box>
      )}
    </Flex>
  );
}

interface PictureProps {
  photo: Entity;
  inspection: string;
  alt: string;
  small?: boolean;
}

function Picture({ photo, inspection, alt, small }: PictureProps) {
  const sha256 = String(photo.values.sha256 ?? "");
  const [src, setSrc] = useState<string>();
  useEffect(() => {
    let made: string | undefined;
    void source(inspection, sha256).then((found) => {
      made = found;
      setSrc(found);
    });
    return () => {
      if (made?.startsWith("blob:")) URL.revokeObjectURL(made);
    };
  }, [inspection, sha256]);
  if (!src) return null;
  const size = small
    ? ({ width: "16", height: "12", objectFit: "cover" } as const)
    : ({ maxWidth: "100%", maxHeight: "70dvh" } as const);
  return <Image src={src} alt={alt} loading="lazy" display="block" borderRadius="md" {...size} />;
}
