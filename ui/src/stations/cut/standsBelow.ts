/** The names above one that is put before a place of a list it is in; null where it stays. */
export function standsBelow(names: readonly string[], name: string, before: number): string[] | null {
  const at = names.indexOf(name);
  if (at < 0 || before < 0 || before > names.length || before === at || before === at + 1) return null;
  return names.slice(0, before).filter((other) => other !== name);
}
