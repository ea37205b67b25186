/** What is seldom wanted, folded under its title. */
import { chakra } from "@chakra-ui/react";
import { type ReactNode, useState } from "react";

interface Props {
  title: ReactNode;
  children: ReactNode;
  small?: boolean;
  /** Unfolded when it first appears; from then on the person folds it. */
  opened?: boolean;
}

export function Fold({ title, children, small, opened }: Props) {
  const [open] = useState(opened);
  // What nobody has opened is not drawn: a stage has many folds, and most of them stay shut.
  const [drawn, draw] = useState(!!opened);
  return (
    <chakra.details open={open} onToggle={(event) => event.currentTarget.open && draw(true)} mb={small ? "0" : "6"}>
      <chakra.summary
        cursor="pointer"
        fontWeight={small ? "semibold" : "bold"}
        minH={small ? "7" : "touch"}
        py={small ? "0.5" : "2.5"}
      >
        {title}
      </chakra.summary>
      {drawn && children}
    </chakra.details>
  );
}
