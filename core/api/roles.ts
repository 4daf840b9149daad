/** What somebody may do: each may what those behind it may. */
export const ROLES = ['administrator', 'specialist', 'viewer'] as const;
export type Role = (typeof ROLES)[number];
