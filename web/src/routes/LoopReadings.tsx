import { Button, Group, Text, Textarea } from '@mantine/core';
import { useMutation } from '@tanstack/react-query';
import { api, unwrap } from '../api/client';
import type { Units } from '../api/queries';
import { fieldOf } from '../format/fields';
import { number } from '../format/units';
import { say } from '../words/en/routes.ftl';
import { readingsOf } from './legForm';

const FIELD = fieldOf('route', 'readings_m');

interface LoopReadingsProps {
  readings: string;
  units: Units;
  onChange: (typed: string) => void;
  onUse: (metres: number) => void;
}

/** Several readings of one loop give its length and its ±. */
export function LoopReadings({ readings, units, onChange, onUse }: LoopReadingsProps) {
  const measure = useMutation({
    mutationFn: async () =>
      unwrap(
        await api.POST('/api/routes/loop-length', {
          body: { readings_m: readingsOf(readings, units), accuracy_pct: 0 },
        }),
      ),
    onSuccess: (found) => onUse(found.value),
  });
  return (
    <div>
      <Textarea
        label={FIELD.label}
        description={say('readings-like', { asks: FIELD.asks })}
        autosize
        value={readings}
        onChange={(event) => onChange(event.currentTarget.value)}
      />
      <Group mt={6}>
        <Button
          size="compact-sm"
          onClick={() => measure.mutate()}
          disabled={readings.trim() === ''}
          loading={measure.isPending}
        >
          {say('work-out-the-length')}
        </Button>
        {measure.data && (
          <Text role="status">
            {say('m-95-to-m', {
              measure: number(measure.data.value, 0),
              low: number(measure.data.low, 0),
              high: number(measure.data.high, 0),
            })}
          </Text>
        )}
        {measure.error && (
          <Text role="alert" c="var(--buoy)" size="sm">
            {measure.error.message}
          </Text>
        )}
      </Group>
    </div>
  );
}
