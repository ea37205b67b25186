/** The look of what the component library draws. Its tokens and base are in a style sheet already (theme/looks.css). */
import { ChakraProvider } from "@chakra-ui/react";
import { type ReactNode, useEffect } from "react";
import { system } from "../theme/system";
import { useLooks } from "./useLooks";

const looks: typeof system = { ...system, _global: [] };

export function Looks({ children }: { children: ReactNode }) {
  useEffect(() => useLooks.setState({ here: true }), []);
  return <ChakraProvider value={looks}>{children}</ChakraProvider>;
}
