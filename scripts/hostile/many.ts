/** A text of so many pieces. */
export const many = (count: number, piece: (at: number) => string): string =>
  Array.from({ length: count }, (_, at) => piece(at)).join('');
