import { useDraft } from './draft.tsx';
import { SubmissionBrowser } from '../submission-browser.tsx';

/** What arrived through this intake, and the path of each. */
export function History() {
  const { detail } = useDraft();
  return <SubmissionBrowser intake={detail.intake.id} />;
}
