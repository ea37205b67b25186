/** What became of a letter that was just sent, in words: it has left, it waits, or it did not go. */
import type { Schemas } from "../api/client";

type Sent = Schemas["Sent"];

/** '' where it has left. */
export function notLeft(sent: Sent): string {
  if (sent.state === "sent") return "";
  if (sent.state === "waiting" || sent.state === "leaving")
    return `The letter waits. ${sent.told} It is sent as soon as the mail server takes it; see Letters.`;
  return `The letter was not delivered. ${sent.told}`;
}
