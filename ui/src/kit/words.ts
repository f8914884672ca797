/** A sentence of the server as it is shown: with a capital letter and a full stop. */
export function asSentence(text: string): string {
  const trimmed = text.trim();
  const end = /[.!?]$/.test(trimmed) ? '' : '.';
  return trimmed && trimmed[0]?.toUpperCase() + trimmed.slice(1) + end;
}
