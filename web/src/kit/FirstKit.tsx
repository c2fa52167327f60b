import { Button } from '@mantine/core';
import { useMutation } from '@tanstack/react-query';
import { type FormEvent, useState } from 'react';
import type { Pack, Vehicle } from '../api/queries';
import { Refusal } from '../ui/Refusal';
import { useFields } from '../ui/useFields';
import { say } from '../words/en/kit.ftl';
import classes from './Kit.module.css';
import { KitPicker, kitFaults } from './KitPicker';
import { kitFields } from './kitFields';
import { useKitChoice } from './useKitChoice';

interface FirstKitProps {
  kit: { vehicles: Vehicle[]; packs: Pack[] };
  /** What comes next. */
  next: string;
}

/** Where the kit lacks a vehicle or a pack: what is ridden, in its rider's words; the rest follows. */
export function FirstKit({ kit, next }: FirstKitProps) {
  const form = useFields(() => kitFields(kit.vehicles, kit.packs));
  const makeKit = useKitChoice();
  const [missing, setMissing] = useState<Record<string, string>>({});
  const make = useMutation({
    mutationFn: () => makeKit(form.values),
    onMutate: form.settle,
    onError: form.refuse,
  });
  function submit(event: FormEvent) {
    event.preventDefault();
    const faults = kitFaults(form.values);
    setMissing(faults);
    if (Object.keys(faults).length === 0) make.mutate();
  }
  return (
    <form className={classes.first} onSubmit={submit} noValidate>
      <p>{say('what-do-you-ride-choose')}</p>
      <KitPicker
        vehicles={kit.vehicles}
        packs={kit.packs}
        chosen={form.values}
        errors={{ ...form.errors, ...missing }}
        onChange={form.change}
      />
      <Refusal error={form.trouble} />
      <Button type="submit" variant="filled" loading={make.isPending}>
        {next}
      </Button>
    </form>
  );
}
