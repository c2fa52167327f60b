import { Button, Checkbox, NumberInput } from '@mantine/core';
import { useMemo } from 'react';
import type { Units } from '../api/queries';
import { distanceText } from '../format/units';
import { say } from '../words/en/letin.ftl';
import type { Choice, Look } from './choices';
import { HomeCut } from './HomeCut';
import classes from './LetIn.module.css';
import { Drawn } from './LogLook';

interface TrackLookProps {
  look: Look;
  choice: Choice;
  units: Units;
  onChoose: (changed: Partial<Choice>) => void;
}

/** Metres that may be cut off each end. */
const MOST_CUT = 5000;
/** What is cut off each end at a tap [m]. */
const ENDS = 300;
const SIZE = 240;

/** A track as it was read: how far, whether it was ridden, what is cut off before it is saved. */
export function TrackLook({ look, choice, units, onChoose }: TrackLookProps) {
  const { cut } = choice;
  const unsure = [...look.unsure, ...look.faults];
  return (
    <div className={classes.look}>
      <div>
        <p className={classes.sums}>
          {say('track-of', {
            length: distanceText(look.length_m ?? 0, units),
            points: look.fixes ?? 0,
          })}
        </p>
        <p className={classes.quiet}>
          {look.timed ? say('timed') : say('not-timed')} {look.has_heights ? '' : say('no-heights')}
        </p>
        {unsure.length > 0 && (
          <div className={classes.check} role="status">
            <b>{say('please-check')}</b>
            <ul>
              {unsure.map((line) => (
                <li key={line}>{line}</li>
              ))}
            </ul>
          </div>
        )}
        {((look.leaps_m ?? []).length > 0 || cut.leaps) && (
          <Checkbox
            label={say('leave-leaps')}
            checked={cut.leaps}
            onChange={(event) => onChoose({ cut: { ...cut, leaps: event.currentTarget.checked } })}
          />
        )}
        <div className={classes.form}>
          <NumberInput
            label={say('cut-first')}
            suffix=" m"
            min={0}
            max={MOST_CUT}
            step={100}
            value={cut.first_m}
            onChange={(value) => onChoose({ cut: { ...cut, first_m: Number(value) || 0 } })}
          />
          <NumberInput
            label={say('cut-last')}
            description={say('cut-about')}
            inputWrapperOrder={['label', 'input', 'description', 'error']}
            suffix=" m"
            min={0}
            max={MOST_CUT}
            step={100}
            value={cut.last_m}
            onChange={(value) => onChoose({ cut: { ...cut, last_m: Number(value) || 0 } })}
          />
        </div>
        <Button
          size="compact-sm"
          mt="sm"
          onClick={() => onChoose({ cut: { ...cut, first_m: ENDS, last_m: ENDS } })}
        >
          {say('cut-both', { metres: ENDS })}
        </Button>
        <HomeCut
          cut={cut}
          path={look.path ?? []}
          onCut={(changed) => onChoose({ cut: { ...cut, ...changed } })}
        />
        <Way path={look.path ?? []} />
        {(look.notices ?? []).map((line) => (
          <p key={line} className={classes.quiet}>
            {line}
          </p>
        ))}
      </div>
      <Drawn look={{ ...look, notices: [] }} units={units} />
    </div>
  );
}

/** The way of a track, north up, its segments apart. */
function Way({ path }: { path: number[][][] }) {
  const lines = useMemo(() => drawn(path), [path]);
  if (lines.length === 0) return null;
  return (
    <svg
      className={classes.path}
      viewBox={`0 0 ${SIZE} ${SIZE}`}
      role="img"
      aria-label={say('the-way')}
    >
      {lines.map((points) => (
        <polyline key={points} points={points} fill="none" stroke="var(--tide)" strokeWidth={1.5} />
      ))}
    </svg>
  );
}

function drawn(path: number[][][]): string[] {
  const all = path.flat();
  if (all.length < 2) return [];
  const lats = all.map((place) => place[0] ?? 0);
  const lons = all.map((place) => place[1] ?? 0);
  const [south, north] = [Math.min(...lats), Math.max(...lats)];
  const [west, east] = [Math.min(...lons), Math.max(...lons)];
  const narrow = Math.cos((((south + north) / 2) * Math.PI) / 180);
  const span = Math.max(north - south, (east - west) * narrow, 1e-9);
  const scale = (SIZE - 12) / span;
  return path.map((segment) =>
    segment
      .map(([lat = 0, lon = 0]) => {
        const x = SIZE / 2 + (lon - (west + east) / 2) * narrow * scale;
        const y = SIZE / 2 - (lat - (south + north) / 2) * scale;
        return `${x.toFixed(1)},${y.toFixed(1)}`;
      })
      .join(' '),
  );
}
