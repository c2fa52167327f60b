import { Button, Checkbox, Select, TextInput } from '@mantine/core';
import { useMemo, useState } from 'react';
import type { Traces, Units } from '../api/queries';
import { consumptionText, distanceText, number } from '../format/units';
import { TraceChart } from '../result/TraceChart';
import { WideTable } from '../ui/WideTable';
import { say } from '../words/en/letin.ftl';
import {
  canSwapDayMonth,
  type LogMapping,
  type Look,
  withDayMonthSwapped,
  withQuantity,
  withSign,
  withUnit,
} from './choices';
import classes from './LetIn.module.css';
import { QUANTITIES, type Quantity, unitChoices, unitChosen } from './quantities';

interface LogLookProps {
  look: Look;
  units: Units;
  onMapping: (mapping: LogMapping | undefined) => void;
}

const NOT_USED = '';
const CHOICES = [{ value: NOT_USED, label: say('not-used') }, ...QUANTITIES];

/** A log as it was understood: each column with its reason, and drawn beside them what that makes. */
export function LogLook({ look, units, onMapping }: LogLookProps) {
  const mapping = look.mapping;
  if (mapping == null) return null;
  const unsure = [...(look.unsure ?? []), ...(look.faults ?? [])];
  return (
    <div className={classes.look}>
      <div>
        {unsure.length > 0 ? (
          <div className={classes.check} role={look.faults.length > 0 ? 'alert' : 'status'}>
            <b>{say('please-check')}</b>
            <ul>
              {unsure.map((line) => (
                <li key={line}>{line}</li>
              ))}
            </ul>
            {look.unsure.length > 0 && canSwapDayMonth(mapping) && (
              <Button
                size="compact-sm"
                variant="subtle"
                onClick={() => onMapping(withDayMonthSwapped(mapping))}
              >
                {say('swap-day-month')}
              </Button>
            )}
          </div>
        ) : (
          <p className={classes.quiet}>
            {look.kept ? say('read-as-before') : say('all-clear')}{' '}
            {look.kept && (
              <Button size="compact-sm" variant="subtle" onClick={() => onMapping(undefined)}>
                {say('guess-again')}
              </Button>
            )}
          </p>
        )}
        <Columns look={look} mapping={mapping} onMapping={onMapping} />
        <div className={classes.form}>
          <InstrumentName mapping={mapping} onMapping={onMapping} />
          {look.started_at == null && (
            <StartField key={mapping.time.sources.join()} mapping={mapping} onMapping={onMapping} />
          )}
        </div>
      </div>
      <Drawn look={look} units={units} />
    </div>
  );
}

function Columns({
  look,
  mapping,
  onMapping,
}: Pick<LogLookProps, 'look' | 'onMapping'> & { mapping: LogMapping }) {
  return (
    <WideTable label={say('column')}>
      <thead className={classes.left}>
        <tr>
          <th>{say('column')}</th>
          <th>{say('taken-for')}</th>
        </tr>
      </thead>
      <tbody className={classes.left}>
        {(look.columns ?? []).map((column) => {
          const quantity = column.quantity as Quantity | null;
          const read = { quantity: quantity ?? 'gauge', unit: column.unit, factor: column.factor };
          const why = (column.is_time ? look.time_why : column.why)?.join(' ');
          return (
            <tr key={column.source} className={column.sure < SURE ? classes.unsure : undefined}>
              <td>
                {column.source}
                <div className={classes.cells}>{column.cells.join(' · ')}</div>
              </td>
              <td>
                <div className={classes.pick}>
                  {column.is_time ? (
                    say('the-time')
                  ) : (
                    <Select
                      aria-label={say('what-column-is', { source: column.source })}
                      data={CHOICES}
                      value={quantity ?? NOT_USED}
                      allowDeselect={false}
                      onChange={(value) =>
                        onMapping(
                          withQuantity(mapping, column.source, (value || null) as Quantity | null),
                        )
                      }
                      w="12rem"
                    />
                  )}
                  {quantity !== null && !column.is_time && unitChoices(read).length > 1 && (
                    <Select
                      aria-label={say('unit-of-source', { source: column.source })}
                      data={unitChoices(read)}
                      value={unitChosen(read)}
                      allowDeselect={false}
                      onChange={(value) => onMapping(withUnit(mapping, column.source, value ?? ''))}
                      w="6.5rem"
                    />
                  )}
                  {quantity !== null && TURNED.has(quantity) && (
                    <Checkbox
                      aria-label={say('turn-sign-of', { source: column.source })}
                      label={say('other-way')}
                      checked={column.sign < 0}
                      onChange={(event) =>
                        onMapping(withSign(mapping, column.source, event.currentTarget.checked))
                      }
                    />
                  )}
                </div>
                {why && <div className={classes.why}>{why}</div>}
              </td>
            </tr>
          );
        })}
      </tbody>
    </WideTable>
  );
}

/** Columns that a logger may count the other way. */
const TURNED = new Set<Quantity>(['current_a', 'power_w']);
/** A guess that is as sure as this is not marked. */
const SURE = 0.8;

function InstrumentName({
  mapping,
  onMapping,
}: {
  mapping: LogMapping;
  onMapping: LogLookProps['onMapping'];
}) {
  const [name, setName] = useState(mapping.instrument);
  return (
    <TextInput
      label={say('instrument-name')}
      description={say('instrument-about')}
      inputWrapperOrder={['label', 'input', 'description', 'error']}
      maxLength={100}
      value={name}
      onChange={(event) => setName(event.currentTarget.value)}
      onBlur={() => {
        const kept = name.trim();
        if (kept !== '' && kept !== mapping.instrument) onMapping({ ...mapping, instrument: kept });
      }}
    />
  );
}

/** When it began, where the file does not say it. */
function StartField({
  mapping,
  onMapping,
}: {
  mapping: LogMapping;
  onMapping: LogLookProps['onMapping'];
}) {
  const [at, setAt] = useState(mapping.time.date?.slice(0, 16) ?? '');
  return (
    <TextInput
      type="datetime-local"
      label={say('which-day')}
      description={say('which-day-about')}
      inputWrapperOrder={['label', 'input', 'description', 'error']}
      value={at}
      onChange={(event) => {
        const value = event.currentTarget.value;
        setAt(value);
        if (value !== '') onMapping({ ...mapping, time: { ...mapping.time, date: value } });
      }}
    />
  );
}

/** What a log comes to, and its lines: a wrong guess shows in them. */
export function Drawn({ look, units }: { look: Look; units: Units }) {
  const drawing = look.drawing;
  const traces = useMemo((): Traces | null => {
    if (drawing == null) return null;
    return {
      time_s: drawing.time_s,
      distance_m: null,
      channels: Object.entries(drawing.channels).map(([name, values]) => ({
        name: NAMES[name] ?? name,
        low: values,
        mean: values,
        high: values,
      })),
    } as unknown as Traces;
  }, [drawing]);
  if (drawing == null || traces == null) return null;
  const { sums } = drawing;
  return (
    <div className={classes.drawn}>
      <p className={classes.sums} role="status">
        {[
          say('lasted', { minutes: number(sums.duration_s / 60, 0) }),
          ...(sums.energy_wh == null ? [] : [`${number(sums.energy_wh, 1)} Wh`]),
          ...(sums.distance_m == null ? [] : [distanceText(sums.distance_m, units)]),
          ...(sums.wh_per_km == null ? [] : [consumptionText(sums.wh_per_km, units)]),
        ].join(' · ')}
      </p>
      <TraceChart
        traces={traces}
        axis="time"
        units={units}
        whole
        lengthM={sums.distance_m ?? 0}
        startedAt={look.started_at}
        cursorM={null}
        onCursor={() => undefined}
        onSelect={() => undefined}
      />
      {look.sampled && <p className={classes.quiet}>{say('sampled')}</p>}
      {(look.notices ?? []).map((line) => (
        <p key={line} className={classes.quiet}>
          {line}
        </p>
      ))}
    </div>
  );
}

/** What the drawn channels are called elsewhere. */
const NAMES: Record<string, string> = {
  voltage_v: 'voltage',
  current_a: 'current',
  speed_mps: 'speed',
  altitude_m: 'height',
};
