import { Popover } from '@mantine/core';
import { createContext, type ReactNode, useContext, useEffect, useId, useState } from 'react';
import { Link } from 'react-router';
import { say } from '../words/en/ui.ftl';
import classes from './Explained.module.css';
import { piecesOf, TERMS } from './terms';

/** Who explains a term on this screen: the first that names it. */
const Explains = createContext<Map<string, string> | null>(null);

/** A screen: within it each term is explained once, where it first stands. */
export function Screen({ children }: { children: ReactNode }) {
  const [explains] = useState(() => new Map<string, string>());
  return <Explains.Provider value={explains}>{children}</Explains.Provider>;
}

/** Words in which a term, where this screen first names it, can be tapped for what it means. */
export function Explained({ text }: { text: string }) {
  const id = useId();
  return piecesOf(text).map(({ text: words, code }, index) => {
    // biome-ignore lint/suspicious/noArrayIndexKey: the pieces of one sentence do not move
    if (code === null) return <span key={index}>{words}</span>;
    // biome-ignore lint/suspicious/noArrayIndexKey: the pieces of one sentence do not move
    return <Named key={index} code={code} words={words} by={`${id} ${index}`} />;
  });
}

function Named({ code, words, by }: { code: string; words: string; by: string }) {
  const explains = useContext(Explains);
  // The first to be drawn explains it, and gives the place up when it goes.
  if (explains && !explains.has(code)) explains.set(code, by);
  useEffect(() => {
    if (explains && !explains.has(code)) explains.set(code, by);
    return () => {
      if (explains?.get(code) === by) explains.delete(code);
    };
  }, [explains, code, by]);
  return explains?.get(code) === by ? <Term code={code} words={words} /> : words;
}

/** A term that opens its sentence, the one that stands in Method. */
export function Term({ code, words }: { code: string; words: string }) {
  const term = TERMS[code];
  if (term === undefined) return words;
  return (
    <Popover width={300} position="bottom" shadow="none" withArrow trapFocus={false}>
      <Popover.Target>
        <button type="button" className={classes.term} data-print>
          {words}
        </button>
      </Popover.Target>
      <Popover.Dropdown className={classes.meaning}>
        <b>{term.name}.</b> {term.meaning}{' '}
        <Link to={`/method#term-${code}`}>{say('all-terms')}</Link>
      </Popover.Dropdown>
    </Popover>
  );
}
