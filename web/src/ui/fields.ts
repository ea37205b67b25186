/** What a form's controls take for each of its fields: the value, where a change goes, and what was refused. */
export const fieldsOf =
  <T extends Record<string, string>>(typed: T, setTyped: (next: T) => void, refused: Record<string, string>) =>
  (field: keyof T & string) => ({
    value: typed[field],
    change: (value: string) => setTyped({ ...typed, [field]: value }),
    refused: refused[field],
  });
