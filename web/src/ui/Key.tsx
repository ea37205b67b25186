/** A key of the keyboard, as it is printed. */
import { Kbd } from "@chakra-ui/react";

export const Key = ({ children }: { children: string }) => <Kbd>{children}</Kbd>;
