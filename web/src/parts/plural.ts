/** A number with its noun, which agrees with it: "1 field", "2 fields", "2 entities". */
export const plural = (many: number, one: string, several = `${one}s`): string =>
  `${many.toLocaleString()} ${many === 1 ? one : several}`;
