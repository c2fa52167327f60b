import { Button, TextInput } from '@mantine/core';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { type FormEvent, useState } from 'react';
import { api, unwrap } from '../api/client';
import { type Plan, planQuery, type Units } from '../api/queries';
import { fieldOf, sentOf, type TypedFields } from '../format/fields';
import { distanceText } from '../format/units';
import classes from '../ui/Desk.module.css';
import { FieldInput } from '../ui/FieldInput';
import { Refusal } from '../ui/Refusal';
import { useFields } from '../ui/useFields';
import { say } from '../words/en/plan.ftl';

const FAR = fieldOf('guess', 'distance_m');

interface GuessesProps {
  plan: Plan;
  units: Units;
}

/** How far will it go? Sealed until the ride has ended, then ranked by nearness. */
export function Guesses({ plan, units }: GuessesProps) {
  const queryClient = useQueryClient();
  const [guessId, setGuessId] = useState(() => crypto.randomUUID());
  const form = useFields({ name: '', typed: {} as TypedFields });
  const { name, typed } = form.values;
  const far = typed[FAR.name] ?? '';
  const seal = useMutation({
    mutationFn: async () =>
      unwrap(
        await api.PUT('/api/plans/{plan_id}/guesses/{guess_id}', {
          params: { path: { plan_id: plan.id, guess_id: guessId } },
          body: { name: name.trim(), distance_m: sentOf(FAR, far, units) ?? '' },
        }),
      ),
    onMutate: form.settle,
    onError: form.refuse,
    onSuccess: (stored) => {
      queryClient.setQueryData(planQuery(plan.id).queryKey, stored);
      setGuessId(crypto.randomUUID());
      form.reset();
    },
  });
  function store(event: FormEvent) {
    event.preventDefault();
    seal.mutate();
  }
  return (
    <section aria-label={say('guesses')}>
      <h2>
        {say('how-far-to-cut-off', {
          opened: plan.opened ? say('the-guesses-opened') : say('sealed-guesses'),
        })}
      </h2>
      <GuessList plan={plan} units={units} />
      {!plan.guesses_closed && (
        <form className={classes.three} style={{ alignItems: 'end' }} onSubmit={store}>
          <TextInput label={say('who')} {...form.field('name')} />
          <FieldInput {...form.number(FAR, units)} withAsterisk={false} />
          <Button
            type="submit"
            loading={seal.isPending}
            disabled={name.trim() === '' || far.trim() === ''}
          >
            {say('seal')}
          </Button>
        </form>
      )}
      <Refusal error={form.trouble} />
    </section>
  );
}

/** The guesses by nearness once opened; before that, only whose they are. */
export function GuessList({ plan, units }: GuessesProps) {
  if (plan.guesses.length === 0)
    return <p className={classes.why}>{say('nobody-has-guessed-yet')}</p>;
  const order = [...plan.guesses].sort((a, b) => (a.place ?? 0) - (b.place ?? 0));
  return (
    <ul className={classes.rows}>
      {order.map((guess) => (
        <li key={guess.id}>
          <span>
            {guess.place == null ? '' : `${guess.place}. `}
            {guess.name}
          </span>
          <span className={classes.number}>
            {guess.distance_m == null
              ? say('sealed')
              : guess.off_m == null
                ? distanceText(guess.distance_m, units)
                : say('distance-m-off-m-too', {
                    distance_m: distanceText(guess.distance_m, units),
                    off_m: distanceText(Math.abs(guess.off_m), units),
                    too: guess.off_m > 0 ? 'far' : 'short',
                  })}
          </span>
        </li>
      ))}
    </ul>
  );
}
