import { Table } from '@mantine/core';
import { useEffect } from 'react';
import { Link, useLocation } from 'react-router';
import { SAFETY } from '../format/words';
import { Page } from '../ui/Page';
import { say } from '../words/en/method.ftl';
import { Assumptions } from './Assumptions';
import { FormulaText } from './Formula';
import classes from './Method.module.css';
import { type Formula, groupsOf, SCHOOLS, TERMS } from './method';

const CONTENTS = [
  ['formulas', say('formulas')],
  ['assumptions', say('assumptions')],
  ['schools', say('where-riders-disagree')],
  ['terms', say('terms')],
  ['cautions', say('cautions')],
  ['formats', say('formats')],
] as const;

/** The open formats' pages, and their schemas. */
const FORMATS = [
  { page: 'bundle', words: say('the-test-bundle'), schemas: ['test', 'samples', 'entries'] },
  { page: 'trip', words: say('a-trip-to-forecast'), schemas: ['trip'] },
  { page: 'claim', words: say('a-makers-figure-to-check'), schemas: ['claim'] },
  { page: 'mapping', words: say('how-any-loggers-table-is'), schemas: ['mapping'] },
  { page: 'cell', words: say('a-cell-to-build-a'), schemas: ['cell'] },
] as const;

/** How every figure comes about: formulas, sources, what is assumed, terms, cautions, formats. */
export function MethodPage() {
  const { hash } = useLocation();
  // The page's code comes after its address: what the address names is looked up once it is drawn.
  useEffect(() => {
    if (hash) document.getElementById(hash.slice(1))?.scrollIntoView();
  }, [hash]);
  return (
    <Page name={say('method')} title={say('how-every-figure-is-worked')}>
      <div className={classes.page}>
        <nav className={classes.contents} aria-label={say('on-this-page')}>
          {CONTENTS.map(([id, label]) => (
            <a key={id} href={`#${id}`}>
              {label}
            </a>
          ))}
        </nav>
        <h2 id="formulas">{say('formulas')}</h2>
        <p>{say('in-si-units-discharge-positive')}</p>
        {groupsOf().map(({ group, formulas }) => (
          <section key={group} aria-label={group}>
            <h3>{group}</h3>
            {formulas.map((formula) => (
              <FormulaEntry key={formula.name} formula={formula} />
            ))}
          </section>
        ))}
        <h2 id="assumptions">{say('what-is-assumed-when-nothing')}</h2>
        <p>{say('each-with-its-spread-and')}</p>
        <Assumptions />
        <h2 id="schools">{say('where-riders-disagree-and-what')}</h2>
        <div className={classes.table}>
          <Table>
            <Table.Thead>
              <Table.Tr>
                <Table.Th>{say('question')}</Table.Th>
                <Table.Th>{say('some-say')}</Table.Th>
                <Table.Th>{say('limpet')}</Table.Th>
              </Table.Tr>
            </Table.Thead>
            <Table.Tbody>
              {SCHOOLS.map((school) => (
                <Table.Tr key={school.question}>
                  <Table.Td>{school.question}</Table.Td>
                  <Table.Td>
                    {school.says.map((text) => (
                      <div key={text}>{text}</div>
                    ))}
                  </Table.Td>
                  <Table.Td>{school.limpet}</Table.Td>
                </Table.Tr>
              ))}
            </Table.Tbody>
          </Table>
        </div>
        <h2 id="terms">{say('terms')}</h2>
        <dl className={classes.terms}>
          {Object.entries(TERMS).map(([code, { name, meaning }]) => (
            <div key={code} id={`term-${code}`}>
              <dt>{name}</dt>
              <dd>{meaning}</dd>
            </div>
          ))}
        </dl>
        <h2 id="cautions">{say('cautions')}</h2>
        <ul>
          {Object.entries(SAFETY).map(([name, text]) => (
            <li key={name}>{text}</li>
          ))}
        </ul>
        <h2 id="formats">{say('formats')}</h2>
        <p>{say('limpets-file-formats-are-open')}</p>
        <ul>
          {FORMATS.map(({ page, words, schemas }) => (
            <li key={page}>
              <Link to={`/method/formats/${page}`}>{words}</Link>
              {schemas.map((name) => (
                <span key={name}>
                  {' · '}
                  <a href={`/api/formats/${name}.schema.json`}>{`${name}.schema.json`}</a>
                </span>
              ))}
            </li>
          ))}
        </ul>
      </div>
    </Page>
  );
}

function FormulaEntry({ formula }: { formula: Formula }) {
  return (
    <article className={classes.entry} id={formula.name}>
      <h4>{formula.title}</h4>
      <FormulaText latex={formula.typeset} />
      {formula.symbols.length > 0 && (
        <p className={classes.soft}>
          {formula.symbols.map((symbol) => `${plain(symbol.latex)} ${symbol.words}`).join('; ')}.
        </p>
      )}
      {formula.about && <p>{formula.about}</p>}
      <p className={classes.soft}>{say('source-source', { source: formula.source })}</p>
    </article>
  );
}

const GREEK: Record<string, string> = { gamma: 'γ', sigma: 'σ', ell: 'ℓ', Delta: 'Δ' };

/** A letter as text: what its typesetting says, without the commands. */
function plain(latex: string): string {
  return latex
    .replace(/\\mathrm\{([^}]*)\}/g, '$1')
    .replace(/\\bar /g, 'mean ')
    .replace(/\\([a-zA-Z]+)\s?/g, (_, name: string) => GREEK[name] ?? name)
    .replace(/[{}_]/g, '');
}
