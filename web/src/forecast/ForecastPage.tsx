import { Text } from '@mantine/core';
import { useDebouncedValue, useThrottledValue } from '@mantine/hooks';
import { useQuery } from '@tanstack/react-query';
import { useCallback, useState } from 'react';
import { ApiError } from '../api/client';
import { forecastQuery, type TripIn } from '../api/queries';
import { distance, number, unitsKey } from '../format/units';
import { useUnits } from '../format/useUnits';
import { heightsOf, pathOf } from '../routes/profile';
import { RoutePath } from '../routes/RoutePath';
import { RouteProfile } from '../routes/RouteProfile';
import { Answer } from '../trip/Answer';
import { ForecastFigures } from '../trip/ForecastFigures';
import { ForecastHeadline } from '../trip/ForecastHeadline';
import { ForecastStrip } from '../trip/ForecastStrip';
import { ForecastWarnings } from '../trip/ForecastWarnings';
import { askable, BLANK_TRIP, hasWay, type TripForm, tripBody } from '../trip/form';
import { InputsTable } from '../trip/InputsTable';
import { NeedsKit } from '../trip/NeedsKit';
import { Sensitivity } from '../trip/Sensitivity';
import { TripFields } from '../trip/TripFields';
import { type Kit, useKit, usualKit } from '../trip/useKit';
import classes from '../ui/Desk.module.css';
import { Page, Trouble, Waiting } from '../ui/Page';
import { useDraft } from '../ui/useDraft';
import { WhatIf } from './WhatIf';
import { WhereItGoes } from './WhereItGoes';

const NO_ERRORS = {};

/** A trip on a route today: will it arrive, where to turn, what matters. */
export function ForecastPage() {
  const { kit, error } = useKit();
  if (error) return <Trouble error={error} onRetry={() => window.location.reload()} />;
  if (kit === null) return <Waiting rows={4} height={60} />;
  if (kit.vehicles.length === 0 || kit.packs.length === 0) {
    return (
      <Page name="Forecast" title="A trip today.">
        <NeedsKit kit={kit} />
      </Page>
    );
  }
  return <TripForecast kit={kit} />;
}

function TripForecast({ kit }: { kit: Kit }) {
  const units = useUnits();
  const [start] = useState(() => firstTrip(kit));
  const { form, change: type } = useDraft<TripForm>(`forecast ${unitsKey(units)}`, start);
  const [whatIf, setWhatIf] = useState<Partial<TripIn>>({});
  const [asked] = useDebouncedValue(tripBody(form, units), 200);
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
    <Page name="Forecast" title="Will this pack do this trip today?">
      <div className={classes.layout}>
        <form className={classes.form} onSubmit={(event) => event.preventDefault()} noValidate>
          <TripFields form={form} kit={kit} units={units} errors={errors} onChange={change} />
        </form>
        <Answer label="The forecast" first>
          {failure && (
            <Text role="alert" c="var(--buoy)" mb="sm">
              {failure.message}
            </Text>
          )}
          {!askable(form) && <p>Choose a route, or sketch one with its length.</p>}
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
              {route && (
                <>
                  <h2>The way</h2>
                  <div className={classes.drawing}>
                    <RouteProfile
                      heights={heightsOf(route)}
                      units={units}
                      markM={turnM}
                      markText={
                        turnM === null ? '' : `turn by ${number(distance(turnM, units), 1)}`
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
    ...BLANK_TRIP,
    ...usual,
    route_id: out?.id ?? '',
    and_back: out !== undefined && out.kind !== 'loop',
  };
}
