/** Several fields of one thing of an inspection, side by side, as many as fit. */
import { Box } from "@chakra-ui/react";
import { type Kind, placeOf } from "../inspection/types";
import { FieldGrid, Wide } from "../ui/Page";
import { FieldInput } from "./FieldInput";

/** A field by its name alone, or with what is said of it. */
export type Named =
  | string
  | {
      field: string;
      label?: string;
      hint?: string;
      rows?: number;
      words?: Record<string, string>;
      /** Takes the whole width. */
      wide?: boolean;
    };

interface Props {
  kind: Kind;
  id: string;
  /** What is false is left out. */
  fields: readonly (Named | false | null | undefined)[];
}

export function Fields({ kind, id, fields }: Props) {
  return (
    <FieldGrid>
      {fields.map((one) => {
        if (!one) return null;
        const { field, wide, ...rest }: Exclude<Named, string> = typeof one === "string" ? { field: one } : one;
        const drawn = <FieldInput place={placeOf(kind, id, field)} {...rest} />;
        return wide ? <Wide key={field}>{drawn}</Wide> : <Box key={field}>{drawn}</Box>;
      })}
    </FieldGrid>
  );
}
