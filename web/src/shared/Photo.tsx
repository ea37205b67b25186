/** A photo of an item, fetched with the link's token; a tap shows it large. */
import { Box, Image } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Dialog } from "../ui/Dialog";
import { fileOf, tokenHere } from "./api";

interface Props {
  home: string;
  sha256: string;
  words: string;
}

/** A picture as an address that needs no clearing up. */
const dataUrl = (drawing: Blob): Promise<string> =>
  new Promise((done, failed) => {
    const reader = new FileReader();
    reader.onload = () => done(String(reader.result));
    reader.onerror = () => failed(new Error("The picture cannot be read."));
    reader.readAsDataURL(drawing);
  });

function useDrawing(home: string, sha256: string, size: "small" | "large", wanted = true) {
  return useQuery({
    queryKey: ["shared photo", tokenHere(), home, sha256, size],
    queryFn: async () => {
      const drawing = await fileOf(`/api/shared/homes/${home}/photos/${sha256}?size=${size}`);
      return dataUrl(drawing);
    },
    enabled: wanted,
    staleTime: Number.POSITIVE_INFINITY,
    retry: 1,
  });
}

export function Photo({ home, sha256, words }: Props) {
  const [large, setLarge] = useState(false);
  const small = useDrawing(home, sha256, "small");
  const whole = useDrawing(home, sha256, "large", large);
  return (
    <>
      <Box
        as="button"
        w="6.5rem"
        h="4.9rem"
        flex="none"
        borderRadius="md"
        overflow="hidden"
        bg="sand"
        aria-label={`Show photo: ${words}`}
        onClick={() => setLarge(true)}
      >
        {small.data && <Image src={small.data} alt={words} w="full" h="full" objectFit="cover" />}
      </Box>
      {large && (
        <Dialog title={words} close={() => setLarge(false)} width="60rem">
          <Image src={whole.data ?? small.data} alt={words} w="full" maxH="75dvh" objectFit="contain" />
        </Dialog>
      )}
    </>
  );
}
