import { Button, Select, TextInput } from '@mantine/core';
import { useDisclosure } from '@mantine/hooks';
import { useEffect, useState } from 'react';
import type { Schemas } from '../api/client';
import { END_REASONS, PURPOSES } from '../format/words';
import { addressNow } from '../places/useAddress';
import { say } from '../words/en/logbook.ftl';
import { SEASONS, SORTS } from './filter';
import classes from './Logbook.module.css';

interface LogbookFiltersProps {
  address: URLSearchParams;
  summary: Schemas['SummaryOut'];
  count: number;
  onChoose: (name: string, value: string | null) => void;
}

/** Filters that wait until they are asked for. */
const MORE = ['purpose', 'season', 'ended', 'rider', 'tag'] as const;

/** What is shown and in which order: all of it stands in the address. */
export function LogbookFilters({ address, summary, count, onChoose }: LogbookFiltersProps) {
  const [opened, more] = useDisclosure(MORE.some((name) => address.get(name)));
  const select = (
    name: string,
    label: string,
    every: string,
    data: ReadonlyArray<string | { value: string; label: string }>,
    width: number,
  ) =>
    data.length > 0 && (
      <Select
        aria-label={label}
        data={[{ value: '', label: every }, ...data]}
        value={address.get(name) ?? ''}
        onChange={(value) => onChoose(name, value)}
        allowDeselect={false}
        w={width}
      />
    );
  const set = MORE.filter((name) => address.get(name)).length;
  return (
    <div className={classes.filters}>
      {select('vehicle', say('vehicle'), say('all-vehicles'), summary.vehicles, 150)}
      {select('pack', say('pack'), say('all-packs'), summary.packs, 140)}
      <Search drawn={address.get('q') ?? ''} onSearch={(words) => onChoose('q', words)} />
      <Select
        aria-label={say('order')}
        data={[...SORTS]}
        value={address.get('sort') ?? 'newest'}
        onChange={(value) => onChoose('sort', value === 'newest' ? null : value)}
        allowDeselect={false}
        w={170}
      />
      <Button variant="subtle" aria-expanded={opened} onClick={more.toggle}>
        {opened
          ? say('fewer-filters')
          : say('more-filters-set', { set: set > 0 ? say('set-set', { set }) : '' })}
      </Button>
      <span className={classes.count} role="status">
        {count === summary.tests
          ? say('tests-tests', { tests: summary.tests })
          : say('count-of-tests', { count, tests: summary.tests })}
      </span>
      {opened && (
        <div className={classes.more}>
          {select('purpose', say('question'), say('all-questions'), PURPOSES, 270)}
          {select('season', say('season'), say('all-seasons'), SEASONS, 210)}
          {select('ended', say('ended'), say('any-ending'), END_REASONS, 220)}
          {select('rider', say('rider'), say('all-riders'), summary.riders, 140)}
          {select('tag', say('tag'), say('all-tags'), summary.tags, 140)}
        </div>
      )}
    </div>
  );
}

/** Words to search for. What is typed stands at once; the address is drawn when there is time. */
function Search({ drawn, onSearch }: { drawn: string; onSearch: (words: string) => void }) {
  const [typed, setTyped] = useState(drawn);
  useEffect(() => {
    // Back and links change the words too. An address that is behind the typing changes nothing.
    if (drawn === (addressNow().get('q') ?? '')) setTyped(drawn);
  }, [drawn]);
  return (
    <TextInput
      aria-label={say('search')}
      placeholder={say('title-pack-rider')}
      maxLength={100}
      value={typed}
      onChange={(event) => {
        setTyped(event.currentTarget.value);
        onSearch(event.currentTarget.value);
      }}
      w={170}
    />
  );
}
