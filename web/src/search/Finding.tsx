/** The field in which one searches, with what is found under it. */
import { useLayoutEffect } from "react";
import { ComboboxField } from "../ui/ComboboxField";
import { FIND, type FindProps } from "./FindField";

export default function Finding({ boxRef, inHandRef, ...props }: FindProps) {
  useLayoutEffect(() => {
    if (inHandRef.current) boxRef.current?.focus();
    inHandRef.current = false;
  }, [boxRef, inHandRef]);
  return <ComboboxField ref={boxRef} quiet {...FIND} list="Found" open={props.text !== ""} {...props} />;
}
