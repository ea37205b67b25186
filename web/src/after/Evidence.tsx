/** Files of evidence: chosen or taken with the camera, sent at once, and named by the step that is taken. */
import { Box, Flex } from "@chakra-ui/react";
import { useState } from "react";
import { explainField } from "../api/errors";
import { Button, IconButton } from "../ui/Button";
import { FileButton } from "../ui/FileDrop";
import { Told } from "../ui/States";
import { EVIDENCE_FILES, type EvidenceKind } from "./steps";

export interface SentFile {
  id: string;
  name: string;
}

interface Props {
  files: SentFile[];
  change: (files: SentFile[]) => void;
  send: (file: File, kind: EvidenceKind) => Promise<string>;
}

export function Evidence({ files, change, send }: Props) {
  const [busy, setBusy] = useState(false);
  const [trouble, setTrouble] = useState("");
  const take = async (taken: File[], kind: EvidenceKind) => {
    setBusy(true);
    setTrouble("");
    const sent = [...files];
    try {
      for (const file of taken) sent.push({ id: await send(file, kind), name: file.name || kind });
    } catch (error) {
      setTrouble(explainField(error, "file"));
    }
    change(sent);
    setBusy(false);
  };
  return (
    <Box>
      <Flex gap="2" wrap="wrap">
        <FileButton
          label="Certificate file"
          accept={EVIDENCE_FILES.certificate}
          several
          take={(taken) => void take(taken, "certificate")}
        >
          <Button busy={busy}>Add certificate …</Button>
        </FileButton>
        <FileButton
          label="Photo file"
          accept={EVIDENCE_FILES.photo}
          several
          take={(taken) => void take(taken, "photo")}
        >
          <Button busy={busy}>Add photo …</Button>
        </FileButton>
      </Flex>
      {files.length > 0 && (
        <Box as="ul" listStyleType="none" aria-label="Files added" mt="2">
          {files.map((file) => (
            <Flex as="li" key={file.id} align="center" gap="2">
              <Box flex="1" overflowWrap="anywhere">
                {file.name}
              </Box>
              <IconButton
                icon="close"
                label={`Remove ${file.name}`}
                onClick={() => change(files.filter((sentFile) => sentFile.id !== file.id))}
              />
            </Flex>
          ))}
        </Box>
      )}
      {trouble && <Told trouble>{trouble}</Told>}
    </Box>
  );
}
