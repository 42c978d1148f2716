/** A plain number; what is none goes to the server as it was typed, which says so at its field. */
export function typedNumber(text: string): number {
  const value = Number(text.replace(",", "."));
  const typed: unknown = text.trim() !== "" && Number.isFinite(value) ? value : text;
  return typed as number;
}

/** The same where a field may be left empty. */
export const typedNumberOrNone = (text: string) => (text.trim() === "" ? null : typedNumber(text));
