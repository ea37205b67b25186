/** Files from the device or its camera: dropped, chosen or taken. */
import { Box, FileUpload } from "@chakra-ui/react";
import { type ReactElement, useState } from "react";

interface Props {
  label: string;
  /** Media types and endings, as a browser's file field takes them. */
  accept: Record<string, string[]> | string[];
  take: (files: File[]) => void;
  several?: boolean;
  disabled?: boolean;
  /** Straight to the camera where there is one. */
  camera?: boolean;
  /** As wide as there is room. */
  wide?: boolean;
}

/** What was taken is the caller's: the control itself keeps nothing, so that the same file can be taken again. */
const NONE: File[] = [];

const UNFIT = "That is not a file of the kind that is asked for here.";

interface DropProps extends Props {
  title: string;
  /** What kinds of files. */
  line: string;
}

/** A place to drop files on, as wide as the page; a tap opens what the device has. */
export function FileDrop({ label, accept, take, several, disabled, title, line }: DropProps) {
  const [trouble, setTrouble] = useState("");
  return (
    <FileUpload.Root
      accept={accept}
      maxFiles={several ? 100 : 1}
      acceptedFiles={NONE}
      disabled={disabled}
      onFileAccept={({ files }) => {
        if (files.length === 0) return;
        setTrouble("");
        take(files);
      }}
      onFileReject={({ files }) => files.length > 0 && setTrouble(UNFIT)}
    >
      <FileUpload.HiddenInput aria-label={label} />
      <FileUpload.Dropzone aria-label={`${title} ${line}`}>
        <FileUpload.DropzoneContent>
          <b>{title}</b>{" "}
          <Box as="span" color="quiet" fontSize="sm">
            {line}
          </Box>
        </FileUpload.DropzoneContent>
      </FileUpload.Dropzone>
      {trouble && <p role="alert">{trouble}</p>}
    </FileUpload.Root>
  );
}

/** A button that opens the files or the camera. */
export function FileButton({
  label,
  accept,
  take,
  several,
  disabled,
  camera,
  wide,
  children,
}: Props & { children: ReactElement }) {
  return (
    <FileUpload.Root
      capture={camera ? "environment" : undefined}
      accept={accept}
      maxFiles={several ? 100 : 1}
      acceptedFiles={NONE}
      disabled={disabled}
      width={wide ? "full" : "auto"}
      onFileAccept={({ files }) => files.length > 0 && take(files)}
    >
      <FileUpload.HiddenInput aria-label={label} />
      <FileUpload.Trigger asChild>{children}</FileUpload.Trigger>
    </FileUpload.Root>
  );
}
