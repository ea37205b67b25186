/** A client's page asks with the token of its link, which stands behind the '#' of its address and goes along as a header. */
import createClient from "openapi-fetch";
import { Refused } from "../api/client";
import type { components, paths } from "../api/schema.gen";

type Schemas = components["schemas"];
export type Shared = Schemas["SharedOut"];
export type SharedReport = Schemas["SharedReportOut"];
export type SharedItem = Schemas["SharedItemOut"];

/** Whose page this is; read anew, since another link can be opened in the same tab. */
export const tokenHere = (): string => window.location.hash.slice(1).split("/")[0] ?? "";

export const bearer = (): Record<string, string> => ({ Authorization: `Bearer ${tokenHere()}` });

export const shared = createClient<paths>({ baseUrl: "/" });
shared.use({
  onRequest({ request }) {
    for (const [name, value] of Object.entries(bearer())) request.headers.set(name, value);
    return request;
  },
});

/** A file of the page as something that can be shown or taken along. Throws Refused with the server's words. */
export async function fileOf(path: string): Promise<Blob> {
  const response = await fetch(path, { headers: bearer() });
  if (response.ok) return response.blob();
  const problem = (await response.json().catch(() => ({}))) as Partial<Schemas["Problem"]>;
  throw new Refused(response.status, problem.message ?? "The file cannot be fetched.", problem);
}

/** Have the browser keep a file under a name. */
export async function download(path: string, name: string): Promise<void> {
  const url = URL.createObjectURL(await fileOf(path));
  const link = Object.assign(document.createElement("a"), { href: url, download: name });
  link.click();
  // The browser has it once it has begun.
  setTimeout(() => URL.revokeObjectURL(url), 60_000);
}
