import { say } from '../words/en/entries.ftl';
import classes from './EntryGrid.module.css';

/** Where the picture of an entry is. */
export const photoAddress = (testId: string, name: string) =>
  `/api/tests/${testId}/photo?${new URLSearchParams({ name })}`;

/** The picture of the display that an entry was made with, to be read beside its fields. */
export function EntryPhoto({ testId, name }: { testId: string; name: string }) {
  const address = photoAddress(testId, name);
  return (
    <a href={address} target="_blank" rel="noreferrer">
      <img className={classes.photo} src={address} alt={say('what-the-display-showed')} />
    </a>
  );
}

/** Where the picture of an entry is, in a table. */
export function PhotoLink({ testId, name }: { testId: string; name: string }) {
  const address = photoAddress(testId, name);
  return (
    <a href={address} target="_blank" rel="noreferrer">
      {say('picture')}
    </a>
  );
}
