import { useDebouncedCallback, useMutationObserverTarget, useScrollSpy } from '@mantine/hooks';
import { say } from '../words/en/result.ftl';
import classes from './Result.module.css';

/** Parts that come when they are loaded are looked for again after so long [ms]. */
const AGAIN_MS = 200;
/** A part counts as reached when its head is so far from the top [px]. */
const REACHED_PX = 64;

const WATCHED = { childList: true, subtree: true };
const pageOf = () => document.getElementById('content') ?? document.body;

/** A way to the parts of a result: a slim line that stays in sight and shows where one is. */
export function Contents() {
  const { active, data, reinitialize } = useScrollSpy({
    selector: 'section[data-part]',
    getValue: (part) => part.getAttribute('aria-label') ?? '',
    getDepth: () => 1,
    offset: REACHED_PX,
  });
  const again = useDebouncedCallback(reinitialize, AGAIN_MS);
  useMutationObserverTarget(again, WATCHED, pageOf);
  // As they lie on the page: beside each other on a laptop, below each other on a phone.
  const parts = data
    .map((part, index) => ({ ...part, index, top: part.getNode().getBoundingClientRect().top }))
    .sort((a, b) => a.top - b.top);
  return (
    <nav className={`${classes.contents} no-print`} aria-label={say('parts-of-this-result')}>
      {parts.map(({ value, getNode, index }) => (
        <button
          key={value}
          type="button"
          aria-current={index === active ? 'true' : undefined}
          onClick={() => {
            const part = getNode();
            part.scrollIntoView();
            // A key goes on from there: its next stop is the part's own first.
            part.tabIndex = -1;
            part.focus({ preventScroll: true });
          }}
        >
          {value}
        </button>
      ))}
    </nav>
  );
}
