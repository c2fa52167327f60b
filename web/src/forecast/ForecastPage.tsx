import { Button, Text } from '@mantine/core';
import { useDebouncedValue, useThrottledValue } from '@mantine/hooks';
import { useQuery } from '@tanstack/react-query';
import { useCallback, useState } from 'react';
import { Link, useParams, useSearchParams } from 'react-router';
import { ApiError } from '../api/client';
import { forecastQuery, type TripIn, tripsQuery } from '../api/queries';
import { distance, number, unitsKey } from '../format/units';
import { useUnits } from '../format/useUnits';
import { FirstKit } from '../kit/FirstKit';
import { heightsOf, pathOf } from '../routes/profile';
import { RoutePath } from '../routes/RoutePath';
import { RouteProfile } from '../routes/RouteProfile';
import { Answer } from '../trip/Answer';
import { ForecastFigures } from '../trip/ForecastFigures';
import { ForecastHeadline } from '../trip/ForecastHeadline';
import { ForecastStrip } from '../trip/ForecastStrip';
import { ForecastWarnings } from '../trip/ForecastWarnings';
import { askable, blankTrip, formOf, hasWay, type TripForm, tripBody } from '../trip/form';
import { InputsTable } from '../trip/InputsTable';
import { answerLine } from '../trip/line';
import { RestsOn } from '../trip/RestsOn';
import { Sensitivity } from '../trip/Sensitivity';
import { TripFields } from '../trip/TripFields';
import { type Kit, useKit, usualKit } from '../trip/useKit';
import classes from '../ui/Desk.module.css';
import { Page, Trouble, Waiting } from '../ui/Page';
import { useDraft } from '../ui/useDraft';
import { say } from '../words/en/forecast.ftl';
import { KeepTrip } from './KeepTrip';
import { type KeptTrip, KeptTrips } from './KeptTrips';
import { WhatIf } from './WhatIf';
import { WhereItGoes } from './WhereItGoes';

const NO_ERRORS = {};

/** A trip on a route today: will it arrive, where to turn, what matters. */
export function ForecastPage() {
  const { tripId } = useParams();
  const [query] = useSearchParams();
  const { kit, error } = useKit();
  const trips = useQuery(tripsQuery);
  const units = useUnits();
  const trouble = error ?? trips.error;
  if (trouble) return <Trouble whole error={trouble} onRetry={() => window.location.reload()} />;
  if (kit === null || trips.data === undefined) return <Waiting rows={4} height={60} />;
  if (kit.vehicles.length === 0 || kit.packs.length === 0) {
    return (
      <Page name={say('forecast')} title={say('a-trip-today')}>
        <FirstKit kit={kit} next={say('back-to-the-trip')} />
      </Page>
    );
  }
  const kept = trips.data.find((trip) => trip.id === tripId) ?? null;
  if (tripId !== undefined && kept === null) {
    return <Trouble error={new Error(say('there-is-no-trip-at'))} />;
  }
  const preset = Object.fromEntries(
    (['vehicle', 'pack'] as const).flatMap((name) => {
      const id = query.get(name);
      const known = kit[`${name}s`].some((item) => item.id === id);
      return known ? [[`${name}_id`, id]] : [];
    }),
  );
  const start = kept ? formOf(kept.asked as Partial<TripIn>, units) : firstTrip(kit);
  return (
    <TripForecast
      key={`${tripId} ${JSON.stringify(preset)}`}
      kit={kit}
      kept={kept}
      trips={trips.data}
      start={{ ...start, ...preset }}
      fresh={Object.keys(preset).length > 0}
    />
  );
}

interface TripForecastProps {
  kit: Kit;
  kept: KeptTrip | null;
  trips: KeptTrip[];
  start: TripForm;
  /** Begun from a piece of kit: what you entered here before is another trip. */
  fresh: boolean;
}

function TripForecast({ kit, kept, trips, start: begun, fresh }: TripForecastProps) {
  const units = useUnits();
  const [start] = useState(begun);
  const draft = kept
    ? `trip-${kept.id}`
    : fresh
      ? `forecast-of ${JSON.stringify(begun)}`
      : 'forecast';
  const { form, change: type, settle } = useDraft<TripForm>(`${draft} ${unitsKey(units)}`, start);
  const [whatIf, setWhatIf] = useState<Partial<TripIn>>({});
  const body = tripBody(form, units);
  const [asked] = useDebouncedValue(body, 200);
  const whole = askable(form) && hasWay(asked);
  const base = useQuery({ ...forecastQuery(asked), enabled: whole });
  // While a slider moves: fewer draws, no ranking, at most one question every 60 ms.
  const moving = useThrottledValue(whatIf, 60);
  const changed = Object.keys(moving).length > 0;
  const quick = useQuery({
    ...forecastQuery({ ...asked, ...moving, quick: true }),
    enabled: whole && changed,
  });
  const shown = changed ? (quick.data ?? base.data) : base.data;
  const failure = base.error ?? quick.error;
  const errors = failure instanceof ApiError ? failure.fields : NO_ERRORS;
  const change = useCallback(
    (changed: Partial<TripForm>) => {
      type(changed);
      setWhatIf({});
    },
    [type],
  );
  const route = kit.routes.find((item) => item.id === form.route_id);
  const turnM = shown?.turn_point?.distance_m ?? null;
  const path = route ? pathOf(route) : null;
  return (
    <Page
      name={kept ? kept.name : say('forecast')}
      title={kept ? <b>{kept.name}</b> : say('will-this-pack-do-this')}
      actions={
        <>
          {kept && (
            <Button component={Link} to="/forecast" variant="default">
              {say('another-trip')}
            </Button>
          )}
          <KeepTrip kept={kept} body={body} ready={askable(form)} onKept={settle} />
        </>
      }
    >
      <div className={classes.layout}>
        <form className={classes.form} onSubmit={(event) => event.preventDefault()} noValidate>
          <TripFields form={form} kit={kit} units={units} errors={errors} onChange={change} />
          {trips.length > 0 && <KeptTrips trips={trips} open={kept?.id} />}
        </form>
        <Answer label={say('the-forecast')} line={answerLine(failure, form, shown, units)}>
          {failure && (
            <Text role="alert" c="var(--buoy)" mb="sm">
              {failure.message}
            </Text>
          )}
          {!askable(form) && <p>{say('choose-a-route-or-sketch')}</p>}
          {askable(form) && base.isPending && !base.error && (
            <div className={classes.coming}>
              <Waiting rows={5} height={100} />
            </div>
          )}
          {shown && askable(form) && (
            <>
              <ForecastHeadline
                forecast={shown}
                units={units}
                pending={base.isPlaceholderData || (changed && quick.isPlaceholderData)}
              />
              <ForecastFigures forecast={shown} units={units} />
              <ForecastStrip forecast={shown} units={units} />
              {base.data && (
                <WhatIf
                  forecast={base.data}
                  shown={shown}
                  units={units}
                  whatIf={whatIf}
                  onChange={setWhatIf}
                />
              )}
              <ForecastWarnings warnings={shown.warnings} />
              {base.data && (
                <RestsOn forecast={base.data} vehicleId={form.vehicle_id} packId={form.pack_id} />
              )}
              {route && (
                <>
                  <h2>{say('the-route')}</h2>
                  <div className={classes.drawing}>
                    <RouteProfile
                      heights={heightsOf(route)}
                      units={units}
                      markM={turnM}
                      markText={
                        turnM === null
                          ? ''
                          : say('turn-by-turn-m', { turn_m: number(distance(turnM, units), 1) })
                      }
                    />
                    {path && <RoutePath path={path} markM={turnM} />}
                  </div>
                </>
              )}
              {base.data && <Sensitivity forecast={base.data} units={units} />}
              <WhereItGoes forecast={shown} />
              {base.data && <InputsTable inputs={base.data.inputs} units={units} />}
            </>
          )}
        </Answer>
      </div>
    </Page>
  );
}

function firstTrip(kit: Kit): TripForm {
  const usual = usualKit(kit);
  const out = kit.routes.find((route) => route.kind === 'track') ?? kit.routes[0];
  return {
    ...blankTrip(kit.reserve),
    ...usual,
    route_id: out?.id ?? '',
    and_back: out !== undefined && out.kind !== 'loop',
  };
}
