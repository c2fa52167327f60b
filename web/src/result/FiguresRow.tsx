import type { Figures, Result, Units } from '../api/queries';
import { Explained } from '../ui/Explained';
import classes from './Result.module.css';
import { threeFigures } from './threeFigures';
import type { Opens } from './useWorking';

interface FiguresRowProps {
  figures: Figures;
  result: Result;
  units: Units;
  opens: Opens;
  /** When it was ridden, where that is known. */
  startedAt: string | null | undefined;
}

/** The three figures, each with its interval and how it came about; each opens its formula. */
export function FiguresRow({ figures, result, units, opens, startedAt }: FiguresRowProps) {
  return (
    <div className={classes.figures} data-walk="figures">
      {threeFigures(figures, result, units, startedAt).map(
        ({ name, label, value, unit, under, span }) => (
          <div key={name} className={name === 'plan_on' ? classes.planned : undefined}>
            <div className={classes.label}>{opens(name, label)}</div>
            <div className={span ? classes.spanValue : classes.value}>
              {value}
              <small>{unit}</small>
            </div>
            {under && (
              <div className={classes.under}>
                <Explained text={under} />
              </div>
            )}
          </div>
        ),
      )}
    </div>
  );
}
