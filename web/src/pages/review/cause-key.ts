import type { ReviewCause } from '@zusammen/core/api';

/** Names a cause in addresses. */
export const keyOf = ({ intakeId, cause, state }: Pick<ReviewCause, 'intakeId' | 'cause' | 'state'>): string =>
  `${intakeId} ${state} ${cause}`;
