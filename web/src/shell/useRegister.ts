/** The firm's instruments, as its register has them. */
import { useQuery } from "@tanstack/react-query";
import { api, answer, type Schemas } from "../api/client";
import { remembered } from "../api/remembered";

type Registered = Schemas["InstrumentOut"]["entry"];

const NONE: Registered[] = [];

/** The firm's instruments, once they are wanted. */
export function useRegister(wanted = true): readonly Registered[] {
  const register = useQuery({
    queryKey: ["instruments"],
    queryFn: () => remembered("instruments", () => answer(api.GET("/api/instruments"))),
    select: (all) => all.instruments.map(({ entry }) => entry),
    retry: false,
    staleTime: 60_000,
    enabled: wanted,
  });
  return register.data ?? NONE;
}
