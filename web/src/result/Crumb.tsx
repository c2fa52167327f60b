import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { api, unwrap } from '../api/client';
import { type TestDetail, testsQuery, type Units } from '../api/queries';
import { day, massText, temperatureText, windText } from '../format/units';
import classes from './Result.module.css';

interface CrumbProps {
  test: TestDetail;
  units: Units;
}

/** What was ridden, with what, by whom, in what weather; and what can be done with it. */
export function Crumb({ test, units }: CrumbProps) {
  const navigate = useNavigate();
  const queryClient = useQueryClient();
  const [asking, setAsking] = useState(false);
  const remove = useMutation({
    mutationFn: async () =>
      unwrap(await api.DELETE('/api/tests/{test_id}', { params: { path: { test_id: test.id } } })),
    onSuccess: () => {
      queryClient.invalidateQueries({ queryKey: testsQuery.queryKey });
      navigate('/logbook');
    },
  });
  const { sheet } = test;
  const cells = `${sheet.pack.series}s${sheet.pack.parallel == null ? '' : `${sheet.pack.parallel}p`}`;
  const weather = [
    sheet.temp_start_c == null ? null : temperatureText(sheet.temp_start_c, units),
    sheet.wind_mps == null ? null : windText(sheet.wind_mps, units),
  ].filter(Boolean);
  return (
    <div className={classes.crumb}>
      <b>{test.title}</b>
      <span>{day(test.started_at)}</span>
      <span>
        {test.vehicle_name || sheet.vehicle_kind.replace('_', ' ')} · {test.pack_name || 'pack'} (
        {cells}, {sheet.pack.rated_ah} Ah)
      </span>
      {test.rider_name && (
        <span>
          {test.rider_name}
          {sheet.load_kg == null ? '' : `, ${massText(sheet.load_kg, units)} with gear`}
        </span>
      )}
      {weather.length > 0 && <span>{weather.join(', ')}</span>}
      <span className={classes.right}>
        <a href={`/api/tests/${test.id}/bundle.zip`}>Export</a>
        <a href={`/api/tests/${test.id}/result.json`}>JSON</a>
        {asking ? (
          <span role="alert">
            Remove for good?{' '}
            <button type="button" className={classes.link} onClick={() => remove.mutate()}>
              Remove
            </button>{' '}
            <button type="button" className={classes.link} onClick={() => setAsking(false)}>
              Keep
            </button>
          </span>
        ) : (
          <button type="button" className={classes.link} onClick={() => setAsking(true)}>
            Remove
          </button>
        )}
        {remove.error && <span role="alert">{remove.error.message}</span>}
      </span>
    </div>
  );
}
