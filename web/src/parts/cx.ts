/** Joins class names, leaving out what is false. */
export const cx = (...names: (string | false | undefined | null)[]): string => names.filter(Boolean).join(' ');
