import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useEffect, useRef } from 'react';
import { Link } from 'react-router';
import { api, unwrap } from '../api/client';
import { TESTS_KEY, type Units } from '../api/queries';
import { sheetDialog } from '../places/sheetPart';
import { sayDone } from '../ui/notes';
import { Refusal } from '../ui/Refusal';
import { say } from '../words/en/sheet.ftl';
import { LOCALE } from '../words/locale';
import classes from './Sheet.module.css';
import {
  differenceOf,
  labelOfPart,
  notedOf,
  PART_NAMES,
  type PartName,
  type Sheet,
  valuesOf,
} from './sheet';

/** Where a part of the sheet has a page of its own, by the kit's shelf. */
const LIVES: Partial<Record<PartName, string>> = {
  vehicle: 'vehicles',
  pack: 'packs',
  rider: 'riders',
};

interface SheetSectionProps {
  testId: string;
  /** Ids of the kit by the parts that describe it. */
  kit: Partial<Record<PartName, string | null>>;
  sheet: Sheet;
  units: Units;
  onChange: (part: PartName) => void;
}

/** All that was said of the test, part by part, each to be corrected; and what was changed. */
export function SheetSection({ testId, kit, sheet, units, onChange }: SheetSectionProps) {
  const box = useRef<HTMLElement>(null);
  useEffect(() => {
    // A link from the ride leads here; the page above had to be drawn first.
    if (window.location.hash === '#sheet') box.current?.scrollIntoView();
  }, []);
  return (
    <section
      ref={box}
      className={classes.sheet}
      aria-label={say('sheet')}
      data-part
      id="sheet"
      data-walk="sheet"
    >
      <h2>{say('what-was-tested-and-how')}</h2>
      <dl className={classes.parts}>
        {PART_NAMES.map((part) => {
          const noted = notedOf(part, valuesOf(sheet, part), units);
          return (
            <div key={part}>
              <dt>{labelOfPart(part)}</dt>
              <dd className={noted.length === 0 ? classes.none : classes.noted}>
                {noted.length === 0
                  ? say('not-noted')
                  : noted.map(({ label, shown }) => (
                      <span key={label}>
                        <span className={classes.label}>{label}</span>
                        {/* A figure stands close behind its ±. */}
                        {label.endsWith('±') ? '' : ' '}
                        {shown}
                      </span>
                    ))}
              </dd>
              <dd>
                {LIVES[part] && kit[part] && (
                  <Link
                    className={`${classes.life} no-print`}
                    to={`/kit/${LIVES[part]}/${kit[part]}`}
                    aria-label={say('label-of-part-history', { label_of_part: labelOfPart(part) })}
                  >
                    {say('history')}
                  </Link>
                )}
                <button
                  type="button"
                  className={classes.link}
                  aria-label={`${noted.length === 0 ? say('add') : say('change')}: ${labelOfPart(part)}`}
                  onPointerEnter={sheetDialog.load}
                  onFocus={sheetDialog.load}
                  onClick={() => onChange(part)}
                >
                  {noted.length === 0 ? say('add') : say('change')}
                </button>
              </dd>
            </div>
          );
        })}
      </dl>
      {sheet.history.length > 0 && <Changes testId={testId} sheet={sheet} units={units} />}
    </section>
  );
}

function Changes({ testId, sheet, units }: Omit<SheetSectionProps, 'onChange' | 'kit'>) {
  const queryClient = useQueryClient();
  const undo = useMutation({
    mutationFn: async (id: number) =>
      unwrap(
        await api.POST('/api/tests/{test_id}/sheet/changes/{change_id}/undo', {
          params: { path: { test_id: testId, change_id: id } },
        }),
      ),
    onSuccess: async () => {
      await queryClient.invalidateQueries({ queryKey: TESTS_KEY });
      sayDone(say('put-back-the-result-follows'));
    },
  });
  return (
    <details className={`${classes.changes} no-print`}>
      <summary>{say('changed-count-times', { count: sheet.history.length })}</summary>
      <Refusal error={undo.error} />
      <ol>
        {sheet.history.map((change) => {
          const part = change.part as PartName;
          const rows = differenceOf(part, change.before, change.after, units);
          const at = new Date(change.made_at).toLocaleString(LOCALE, {
            dateStyle: 'medium',
            timeStyle: 'short',
          });
          return (
            <li key={change.id}>
              <span>
                <b>{labelOfPart(part)}</b>
                {change.taken ? '' : say('not-saved-it-was-changed')} · {at}
                {change.by && ` · ${change.by}`}
                <br />
                {rows.map((row) => `${row.label}: ${row.before} → ${row.after}`).join('; ')}
              </span>
              <button
                type="button"
                className={classes.link}
                disabled={undo.isPending}
                onClick={() => undo.mutate(change.id)}
              >
                {change.taken ? say('undo') : say('use-this-one')}
              </button>
            </li>
          );
        })}
      </ol>
    </details>
  );
}
