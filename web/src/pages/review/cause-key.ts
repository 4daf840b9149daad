import type { ReviewCause } from '@zusammen/core/api';

/** Names a cause in addresses. */
export const keyOf = ({ intakeId, cause, state }: ReviewCause): string => `${intakeId} ${state} ${cause}`;
