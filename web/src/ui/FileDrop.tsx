/** Files from the device or its camera: dropped, chosen or taken. */
import { FileUpload } from "@chakra-ui/react";
import { type ReactElement, type ReactNode, useState } from "react";

interface Props {
  label: string;
  /** Media types and endings, as a browser's file field takes them. */
  accept: Record<string, string[]> | string[];
  take: (files: File[]) => void;
  several?: boolean;
  disabled?: boolean;
}

const UNFIT = "That is not a file of the kind that is asked for here.";

/** A place to drop files on, as wide as the page; a tap opens what the device has. */
export function FileDrop({ label, accept, take, several, disabled, children }: Props & { children: ReactNode }) {
  const [trouble, setTrouble] = useState("");
  return (
    <FileUpload.Root
      accept={accept}
      maxFiles={several ? 100 : 1}
      disabled={disabled}
      onFileChange={() => setTrouble("")}
      onFileAccept={({ files }) => files.length > 0 && take(files)}
      onFileReject={({ files }) => files.length > 0 && setTrouble(UNFIT)}
    >
      <FileUpload.HiddenInput aria-label={label} />
      <FileUpload.Dropzone aria-label={label}>
        <FileUpload.DropzoneContent>{children}</FileUpload.DropzoneContent>
      </FileUpload.Dropzone>
      {trouble && <p role="alert">{trouble}</p>}
    </FileUpload.Root>
  );
}

/** A button that opens the files or the camera. */
export function FileButton({ label, accept, take, several, disabled, children }: Props & { children: ReactElement }) {
  return (
    <FileUpload.Root
      accept={accept}
      maxFiles={several ? 100 : 1}
      disabled={disabled}
      width="auto"
      onFileAccept={({ files }) => files.length > 0 && take(files)}
    >
      <FileUpload.HiddenInput aria-label={label} />
      <FileUpload.Trigger asChild>{children}</FileUpload.Trigger>
    </FileUpload.Root>
  );
}
