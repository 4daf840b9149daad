import { formOfConversion } from '@zusammen/core/intake';
import { linkedEntities, panelLine, SIGNED_CONTEXT } from '@zusammen/core/forms/hosted';
import { Copy } from '../../../parts/copy.tsx';
import { Sheet } from '../../../parts/sheet.tsx';
import { Moment } from '../../../parts/time.tsx';
import { useDraft } from '../draft.tsx';

const UNSEEN = {
  ...{ seenAt: null, seenBy: null, seenOn: null },
  ...{ refusedAt: null, refusedWhy: null, refusedFrom: null },
} as const;

/** How a panel is put on pages of records, and whether it was seen there. */
export function PanelOnPages() {
  const { detail, document, schemas } = useDraft();
  // What was made a panel a moment ago is told of the server with the next look.
  const panel = detail.panel ?? { ...UNSEEN, line: panelLine(window.location.origin, detail.intake.key) };
  const link = document.form?.panel ? document.form.link : formOfConversion(document)?.link;
  if (!link) return null;
  const { seenAt, seenBy, seenOn, refusedAt, refusedWhy, refusedFrom } = panel;
  const labels = linkedEntities(link).map(
    ({ entity }) => schemas.get(link.system)?.entities.find(({ name }) => name === entity)?.label ?? entity,
  );
  const isNewer = refusedAt !== null && (seenAt === null || refusedAt > seenAt);
  return (
    <Sheet title="On pages of records">
      <div className="space-y-3 p-4">
        <Copy label={`On the page of each ${labels.join(' or ')}, where the panel is to stand`} text={panel.line} />
        <p className="text-small text-soft">
          Where it says <code className="font-mono">{SIGNED_CONTEXT}</code>, the page puts what its system signs (JWS):
          its issuer, for this panel’s address, the <code className="font-mono">entity</code> and{' '}
          <code className="font-mono">record</code>, the person as <code className="font-mono">sub</code> and{' '}
          <code className="font-mono">name</code>, five minutes, and a <code className="font-mono">jti</code> used once.
          When it is carried out, the page hears <code className="font-mono">formdone</code> with the records made.
        </p>
        {seenAt === null ? (
          <p className="text-saffron">◆ No page has shown it yet.</p>
        ) : (
          <p>
            <span aria-hidden="true" className="text-moss">
              ●{' '}
            </span>
            Seen <Moment at={seenAt} /> by {seenBy}, on <span className="font-mono text-[13px]">{seenOn}</span>.
          </p>
        )}
        {refusedAt !== null && (
          <p className={isNewer ? 'text-brick' : 'text-soft'}>
            {isNewer && <span aria-hidden="true">◆ </span>}
            Refused <Moment at={refusedAt} />, from {refusedFrom}: {refusedWhy}
          </p>
        )}
      </div>
    </Sheet>
  );
}
