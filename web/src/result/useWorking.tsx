import { lazy, type ReactNode, Suspense, useCallback, useState } from 'react';
import type { Result, Units } from '../api/queries';
import type { Working } from '../method/method';
import { say } from '../words/en/result.ftl';
import classes from './Result.module.css';

const WorkingDialog = lazy(() => import('./WorkingDialog'));

type Figure = Working['figure'];

/** A figure's name as a button that opens its formula; plain words where there is none. */
export type Opens = (figure: Figure, label: string) => ReactNode;

/** Which figure's formula is open, and the dialog that shows it. */
export function useWorking(result: Result | null | undefined, units: Units) {
  const [open, setOpen] = useState<{ figure: Figure; label: string } | null>(null);
  // The same as long as the result is: what is drawn with it stays as it is while a formula is open.
  const opens = useCallback<Opens>(
    (figure, label) =>
      result?.workings.some((working) => working.figure === figure) ? (
        <button
          type="button"
          className={classes.opens}
          data-print
          title={say('how-it-was-worked-out')}
          onClick={() => setOpen({ figure, label })}
        >
          {label}
        </button>
      ) : (
        label
      ),
    [result],
  );
  const working = result?.workings.find((item) => item.figure === open?.figure);
  const dialog =
    open !== null && working !== undefined && result ? (
      <Suspense fallback={null}>
        <WorkingDialog
          working={working}
          title={open.label}
          result={result}
          units={units}
          onClose={() => setOpen(null)}
        />
      </Suspense>
    ) : null;
  return { opens, dialog };
}
