import { useNavigate } from 'react-router';
import { api, unwrap } from '../api/client';
import { TESTS_KEY, type TestDetail, type Units } from '../api/queries';
import { day, massText, temperatureText, windText } from '../format/units';
import { useRemoval } from '../ui/useRemoval';
import classes from './Result.module.css';

interface CrumbProps {
  test: TestDetail;
  units: Units;
}

/** What was ridden, with what, by whom, in what weather; and what can be done with it. */
export function Crumb({ test, units }: CrumbProps) {
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
  return (
    <div className={classes.crumb}>
      <b>{test.title}</b>
      <span>{day(test.started_at)}</span>
      <span>
        {test.vehicle_name || sheet?.vehicle_kind.replace('_', ' ')} · {test.pack_name || 'pack'}
        {sheet && ` (${cellsOf(sheet)}, ${sheet.pack.rated_ah} Ah)`}
      </span>
      {test.rider_name && (
        <span>
          {test.rider_name}
          {sheet?.load_kg == null ? '' : `, ${massText(sheet.load_kg, units)} with gear`}
        </span>
      )}
      {weather.length > 0 && <span>{weather.join(', ')}</span>}
      <span className={classes.right}>
        <a href={`/api/tests/${test.id}/bundle.zip`}>Export</a>
        <a href={`/api/tests/${test.id}/result.json`}>JSON</a>
        <button
          type="button"
          className={classes.link}
          disabled={removal.pending}
          onClick={removal.tap}
        >
          Remove
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
