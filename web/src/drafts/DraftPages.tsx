/** A draft that this device made: its pages below each other. */
import { Box, Image } from "@chakra-ui/react";
import { useEffect, useMemo } from "react";
import type { Page } from "../typeset/pages";

export function DraftPages({ pages }: { pages: readonly Page[] }) {
  const addresses = useMemo(() => pages.map(({ drawing }) => URL.createObjectURL(drawing)), [pages]);
  useEffect(() => () => addresses.forEach((address) => URL.revokeObjectURL(address)), [addresses]);
  return (
    <Box display="grid" gap="3.5">
      {pages.map(({ width, height }, at) => (
        <Image
          key={at}
          src={addresses[at]}
          alt={`Page ${at + 1} of the draft`}
          loading="lazy"
          decoding="async"
          width="full"
          aspectRatio={`${width} / ${height}`}
          bg="white"
          borderWidth="1px"
          borderColor="line"
        />
      ))}
    </Box>
  );
}
