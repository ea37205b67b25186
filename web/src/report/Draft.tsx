/** The draft's pages, each fetched when it is scrolled to: a long report costs what is looked at of it. */
import { Box, Image } from "@chakra-ui/react";
import type { Schemas } from "../api/client";

interface Props {
  inspection: string;
  preview: Pick<Schemas["Preview"], "draft" | "pages">;
  /** A page is not there any more: somebody looked at the draft for a long time. */
  gone: () => void;
}

export function Draft({ inspection, preview, gone }: Props) {
  return (
    <Box display="grid" gap="3.5">
      {preview.pages.map(({ width, height }, i) => (
        // A page keeps its place while the next draft of it comes.
        <Image
          key={i}
          src={`/api/inspections/${inspection}/drafts/${preview.draft}/${i + 1}`}
          alt={`Page ${i + 1} of the draft`}
          loading="lazy"
          decoding="async"
          onError={gone}
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
