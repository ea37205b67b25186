/** Links to everything of a client: all homes at once, for a landlord or an agent. */
import { useQuery } from "@tanstack/react-query";
import { Links } from "../after/Links";
import { api, answer } from "../api/client";

export function ClientLinks({ client, name, mayMake }: { client: string; name: string; mayMake: boolean }) {
  const params = { path: { client_id: client } };
  const links = useQuery({
    queryKey: ["client links", client],
    queryFn: () => answer(api.GET("/api/clients/{client_id}/links", { params })),
    staleTime: 0,
  });
  return (
    <Links
      title="Page of all homes"
      lead="For the client or their agent, without an account: every home, its state and by when."
      links={links.data ?? []}
      name={name}
      usually="client"
      mayMake={mayMake}
      changed={() => void links.refetch()}
      make={(body) => answer(api.POST("/api/clients/{client_id}/links", { params, body }))}
    />
  );
}
