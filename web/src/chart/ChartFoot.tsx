import { Menu } from '@mantine/core';
import { useState } from 'react';
import { sayDone, sayTrouble } from '../ui/notes';
import { say } from '../words/en/chart.ftl';
import classes from './Chart.module.css';
import { canShare } from './canShare';
import type { Act } from './saving';
import { ValuesTable } from './Values';
import type { Values } from './values';

interface ChartFootProps {
  name: string;
  values: Values;
  picture: () => SVGSVGElement | null;
  /** What stands under the cursor, in words. */
  read: string | null;
}

const WORDS: Record<Act, string> = {
  png: say('save-as-png'),
  svg: say('save-as-svg'),
  csv: say('save-the-values-as-csv'),
  copy: say('copy-the-picture'),
  share: say('share-the-picture'),
};

/** Below a drawing: what the cursor reads, the values as a table, and the picture to save or share. */
export function ChartFoot({ name, values, picture, read }: ChartFootProps) {
  const [open, setOpen] = useState(false);
  async function act(what: Act) {
    const svg = picture();
    if (svg === null) return;
    try {
      // What saves is loaded when somebody saves.
      const { carryOut } = await import('./saving');
      const done = await carryOut(what, svg, name, values);
      if (done !== null) sayDone(done);
    } catch (error) {
      sayTrouble(refused(what, error));
    }
  }
  return (
    <>
      <div className={`${classes.foot} no-print`}>
        <span className={classes.read}>{read}</span>
        <button
          type="button"
          className={classes.tool}
          aria-expanded={open}
          onClick={() => setOpen(!open)}
        >
          {say('as-a-table')}
        </button>
        <Menu position="bottom-end" withinPortal={false}>
          <Menu.Target>
            <button
              type="button"
              className={classes.tool}
              aria-label={say('save-or-share', { name })}
            >
              {say('save-or-share-act')}
            </button>
          </Menu.Target>
          <Menu.Dropdown>
            {offered().map((what) => (
              <Menu.Item key={what} onClick={() => void act(what)}>
                {WORDS[what]}
              </Menu.Item>
            ))}
          </Menu.Dropdown>
        </Menu>
      </div>
      {open && <ValuesTable name={name} values={values} />}
    </>
  );
}

/** What this browser can do: an offer that fails is none. */
function offered(): Act[] {
  const all: Act[] = ['png', 'svg', 'csv'];
  // Over plain HTTP a browser has no clipboard, whatever the types say.
  if (typeof ClipboardItem !== 'undefined' && 'clipboard' in navigator) all.push('copy');
  if (canShare()) all.push('share');
  return all;
}

function refused(what: Act, error: unknown): string {
  const why = error instanceof Error ? error.message : String(error);
  const tried = what === 'copy' ? say('copied') : what === 'share' ? say('shared') : say('saved');
  return say('the-picture-could-not-be', { tried, why });
}
