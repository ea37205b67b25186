/** The edition of the rules that the server judges by, as its last answer said. */
let edition: string | null = null;
const told = new EventTarget();

export const serverEdition = (): string | null => edition;

export function hearEdition(headers: Headers): void {
  const now = headers.get("Dorrik-Rules");
  if (!now || now === edition) return;
  edition = now;
  told.dispatchEvent(new Event("edition"));
}

/** Told when the server judges by another edition than before. */
export const onEdition = (hear: () => void): void => told.addEventListener("edition", hear);
