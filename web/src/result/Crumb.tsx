import type { ReactNode } from 'react';
import { Link, useNavigate } from 'react-router';
import { api, unwrap } from '../api/client';
import { TESTS_KEY, type TestDetail, type Units } from '../api/queries';
import { day, massText, temperatureText, windText } from '../format/units';
import type { PartName } from '../sheet/sheet';
import { useRemoval } from '../ui/useRemoval';
import { say } from '../words/en/result.ftl';
import classes from './Result.module.css';
import { SaveMenu } from './SaveMenu';

interface CrumbProps {
  test: TestDetail;
  units: Units;
  /** Opens a part of the sheet to be changed. */
  onChange: (part: PartName) => void;
  /** Opens the result as a picture, where there is one. */
  onPicture: (() => void) | null;
}

/** What was ridden, with what, by whom, in what weather; and what can be done with it. */
export function Crumb({ test, units, onChange, onPicture }: CrumbProps) {
  const navigate = useNavigate();
  const params = { path: { test_id: test.id } };
  const removal = useRemoval({
    what: `“${test.title}”`,
    remove: async () => unwrap(await api.DELETE('/api/tests/{test_id}', { params })),
    restore: async () => unwrap(await api.POST('/api/tests/{test_id}/restore', { params })),
    lists: [TESTS_KEY],
    onDone: () => navigate('/logbook'),
  });
  const { sheet } = test;
  const weather = [
    sheet?.temp_start_c == null ? null : temperatureText(sheet.temp_start_c, units),
    sheet?.wind_mps == null ? null : windText(sheet.wind_mps, units),
  ].filter(Boolean);
  const part = (name: PartName, shown: ReactNode, label: string) =>
    sheet ? (
      <button
        type="button"
        className={classes.plain}
        data-print
        title={say('change-label', { label })}
        onClick={() => onChange(name)}
      >
        {shown}
      </button>
    ) : (
      <span>{shown}</span>
    );
  return (
    <div className={classes.crumb}>
      {part('test', <b>{test.title}</b>, say('the-test'))}
      <span>{day(test.started_at)}</span>
      {part(
        'vehicle',
        test.vehicle_name || sheet?.vehicle_kind.replace('_', ' ') || 'vehicle',
        say('vehicle'),
      )}
      {part(
        'pack',
        `${test.pack_name || 'pack'}${sheet ? ` (${cellsOf(sheet)}, ${sheet.pack.rated_ah} Ah)` : ''}`,
        say('pack'),
      )}
      {part(
        'rider',
        test.rider_name
          ? `${test.rider_name}${sheet?.load_kg == null ? '' : say('load-kg-with-gear', { load_kg: massText(sheet.load_kg, units) })}`
          : say('rider-not-noted'),
        say('rider'),
      )}
      {part(
        'conditions',
        weather.length > 0 ? weather.join(', ') : say('weather-not-noted'),
        say('conditions'),
      )}
      <span className={classes.right}>
        {test.state === 'riding' && <Link to={`/ride/${test.id}`}>{say('to-the-ride')}</Link>}
        {onPicture && (
          <button type="button" className={classes.link} onClick={onPicture}>
            {say('picture')}
          </button>
        )}
        <button type="button" className={classes.link} onClick={() => window.print()}>
          {say('print')}
        </button>
        <SaveMenu test={test} />
        <button
          type="button"
          className={classes.link}
          disabled={removal.pending}
          onClick={removal.tap}
        >
          {say('remove')}
        </button>
        {removal.error && <span role="alert">{removal.error.message}</span>}
      </span>
    </div>
  );
}

function cellsOf(sheet: NonNullable<TestDetail['sheet']>): string {
  const { series, parallel } = sheet.pack;
  return `${series}s${parallel == null ? '' : `${parallel}p`}`;
}
