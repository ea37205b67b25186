/** The program that opened a session, in a few words. */
export function program(agent: string): string {
  const browser = agent.match(/(Firefox|Edg|Chrome|Safari)\//)?.[1] ?? "";
  const system = agent.match(/(Android|iPhone|iPad|Windows|Macintosh|Linux)/)?.[1] ?? "";
  return [browser === "Edg" ? "Edge" : browser, system].filter(Boolean).join(" on ") || "a program";
}
