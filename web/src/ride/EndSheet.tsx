import { useMutation, useQueryClient } from '@tanstack/react-query';
import { type FormEvent, useState } from 'react';
import { useNavigate } from 'react-router';
import { api, type Schemas, unwrap } from '../api/client';
import type { TestDetail, Units } from '../api/queries';
import { EntryFields } from '../entries/EntryFields';
import { bodyOf, ENTRY_FIELDS, type Typed } from '../entries/fields';
import { END_REASONS } from '../format/words';
import { useFields } from '../ui/useFields';
import classes from './Ride.module.css';
import type { Noting } from './useNote';

interface EndSheetProps {
  test: TestDetail;
  units: Units;
  noting: Noting;
  onClose: () => void;
}

const LAST = ['voltage_rest_v', 'charge_ah', 'energy_wh', 'trip_m', 'laps', 'gauge'];

/** The last readings and the reason; from here the test has its result. */
export function EndSheet({ test, units, noting, onClose }: EndSheetProps) {
  const navigate = useNavigate();
  const queryClient = useQueryClient();
  const [entryId] = useState(() => crypto.randomUUID());
  const form = useFields({ reason: 'home' as Schemas['EndIn']['reason'], typed: {} as Typed });
  const { reason, typed } = form.values;
  const end = useMutation({
    mutationFn: async () => {
      await noting.put(entryId, bodyOf(typed, { time_s: noting.now(), kind: 'end' }, units));
      return unwrap(
        await api.PUT('/api/tests/{test_id}/ending', {
          params: { path: { test_id: test.id } },
          body: { reason, note: '' },
        }),
      );
    },
    onMutate: form.settle,
    onError: form.refuse,
    onSuccess: () => {
      queryClient.invalidateQueries({ queryKey: ['tests'] });
      navigate(`/tests/${test.id}`);
    },
  });
  function store(event: FormEvent) {
    event.preventDefault();
    end.mutate();
  }
  return (
    <form className={classes.sheet} onSubmit={store}>
      <h2>Why does it end?</h2>
      <div className={classes.choices}>
        {END_REASONS.map((item) => (
          <button
            key={item.value}
            type="button"
            className={classes.choice}
            aria-pressed={reason === item.value}
            onClick={() => form.change({ reason: item.value })}
          >
            {item.label}
          </button>
        ))}
      </div>
      <p>Wait half a minute, better ten, then read the volts at rest.</p>
      <EntryFields
        fields={ENTRY_FIELDS.filter((field) => LAST.includes(field.name))}
        form={form}
        units={units}
        size="lg"
      />
      {form.trouble && (
        <p className={classes.question} role="alert">
          {form.trouble.message}
        </p>
      )}
      <div className={classes.row}>
        <button type="button" className={classes.action} onClick={onClose}>
          Back
        </button>
        <button
          type="submit"
          className={classes.action}
          style={{ background: '#000', color: '#fff' }}
          disabled={end.isPending}
        >
          End the ride
        </button>
      </div>
    </form>
  );
}
