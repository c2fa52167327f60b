import { useMutation, useQueryClient } from '@tanstack/react-query';
import { api, type Schemas, unwrap } from '../api/client';
import { type Figures, TESTS_KEY, type Units } from '../api/queries';
import { Explained } from '../ui/Explained';
import { Refusal } from '../ui/Refusal';
import { say } from '../words/en/result.ftl';
import { Shown } from '../words/Shown';
import { changesOf } from './changes';
import classes from './Result.module.css';

interface ChangedNoteProps {
  testId: string;
  changed: Schemas['ChangedOut'];
  figures: Figures;
  planM: number | null;
  units: Units;
}

/** What a result was before Limpet learned to work it out better, what it is now, and why; until it was seen. */
export function ChangedNote({ testId, changed, figures, planM, units }: ChangedNoteProps) {
  const queryClient = useQueryClient();
  const see = useMutation({
    mutationFn: async () =>
      unwrap(
        await api.POST('/api/tests/{test_id}/changed/seen', {
          params: { path: { test_id: testId } },
        }),
      ),
    onSuccess: () => queryClient.invalidateQueries({ queryKey: TESTS_KEY }),
  });
  const lines = changesOf(changed, figures, planM, units);
  return (
    <aside
      className={`${classes.changed} no-print`}
      aria-label={say('what-changed-in-this-result')}
    >
      <p>
        <Shown say={say} id="limpet-now-calculates-this-ride" parts={{ b: <b /> }} />
      </p>
      <ul>
        {lines.map((line) => (
          <li key={line}>{line}</li>
        ))}
      </ul>
      <details>
        <summary>{say('why')}</summary>
        <ul>
          {changed.why.map((reason) => (
            <li key={reason.code}>
              <Explained text={reason.message} />
            </li>
          ))}
        </ul>
      </details>
      <Refusal error={see.error} />
      <button
        type="button"
        className={classes.link}
        disabled={see.isPending}
        onClick={() => see.mutate()}
      >
        {say('got-it')}
      </button>
    </aside>
  );
}
