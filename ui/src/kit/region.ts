/** The region that the browser is set to, as two letters; empty where it names none. */
export const region = () => new Intl.Locale(navigator.language).maximize().region ?? '';
