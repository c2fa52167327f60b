import { Button, Text, TextInput } from '@mantine/core';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { api, unwrap } from '../api/client';
import type { Units } from '../api/queries';
import type { TypedFields } from '../format/fields';
import classes from '../ui/Desk.module.css';
import { say } from '../words/en/trip.ftl';
import { compass, typedInto } from './form';

interface WeatherFillProps {
  units: Units;
  onFill: (filled: TypedFields) => void;
}

/** Asks the weather source for a place and a day and fills the conditions in. */
export function WeatherFill({ units, onFill }: WeatherFillProps) {
  const [place, setPlace] = useState('Skerrow');
  const [date, setDate] = useState(() => new Date().toISOString().slice(0, 10));
  const ask = useMutation({
    mutationFn: async () =>
      unwrap(await api.GET('/api/weather', { params: { query: { place, date } } })),
    onSuccess: (weather) => {
      onFill({
        temp_c: typedInto('temp_c', weather.temp_c, units),
        wind_mps: typedInto('wind_mps', weather.wind_mps, units),
        wind_from_deg: compass(weather.wind_from_deg),
        pressure_hpa: typedInto('pressure_hpa', weather.pressure_hpa, units),
        humidity_pct: typedInto('humidity_pct', weather.humidity_pct, units),
      });
    },
  });
  return (
    <>
      <div className={classes.two} style={{ alignItems: 'end' }}>
        <TextInput
          label={say('place')}
          value={place}
          onChange={(event) => setPlace(event.currentTarget.value)}
        />
        <TextInput
          type="date"
          label={say('day')}
          value={date}
          onChange={(event) => setDate(event.currentTarget.value)}
        />
      </div>
      <Button
        mt="xs"
        onClick={() => ask.mutate()}
        loading={ask.isPending}
        disabled={place.trim() === '' || date === ''}
      >
        {say('get-the-weather')}
      </Button>
      {ask.error && (
        <Text role="alert" size="sm" c="var(--buoy)">
          {ask.error.message}
        </Text>
      )}
      {ask.data && (
        <Text size="sm" c="dimmed" role="status">
          {say('from-source', { source: ask.data.source })}
        </Text>
      )}
    </>
  );
}
