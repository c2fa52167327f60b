import { Table } from '@mantine/core';
import { Link } from 'react-router';
import type { Result, Units } from '../api/queries';
import { withUnit } from '../format/number';
import { percent } from '../format/units';
import { partWords } from '../format/words';
import { FormulaText } from '../method/Formula';
import { formulaOf, shownNumber, type Working, withNumbers } from '../method/method';
import { Dialog } from '../ui/Dialog';
import { say } from '../words/en/result.ftl';
import { Shown } from '../words/Shown';
import classes from './Result.module.css';

export type Figure = Working['figure'];

interface WorkingDialogProps {
  working: Working;
  title: string;
  result: Result;
  units: Units;
  onClose: () => void;
}

/** A figure's formula, the same with this test's numbers, where each number is from, what makes it unsure. */
export default function WorkingDialog({
  working,
  title,
  result,
  units,
  onClose,
}: WorkingDialogProps) {
  const formula = formulaOf(working.formula);
  if (formula === undefined) return null;
  const parts =
    working.figure === 'wh_per_km'
      ? result.budget.wh_per_km
      : working.figure.startsWith('range') || working.figure === 'plan_on'
        ? result.budget.range_to_cutoff
        : [];
  return (
    <Dialog onClose={onClose} title={title} size="lg">
      <div className={classes.working}>
        <FormulaText latex={formula.typeset} />
        <p className={classes.note}>{say('with-this-tests-numbers')}</p>
        <FormulaText latex={withNumbers(formula, working, units)} />
        <div className={classes.entries}>
          <Table>
            <Table.Thead>
              <Table.Tr>
                <Table.Th className={classes.words}>{say('what')}</Table.Th>
                <Table.Th>{say('value')}</Table.Th>
                <Table.Th>± (u)</Table.Th>
                <Table.Th className={classes.words}>{say('from')}</Table.Th>
              </Table.Tr>
            </Table.Thead>
            <Table.Tbody>
              {working.numbers.map((item) => {
                const symbol = formula.symbols.find((found) => found.name === item.symbol);
                if (symbol === undefined) return null;
                const shown = shownNumber(symbol, item.value, units);
                const unsure =
                  item.standard_uncertainty == null
                    ? null
                    : shownNumber(symbol, item.standard_uncertainty, units);
                return (
                  <Table.Tr key={item.symbol}>
                    <Table.Td className={classes.words}>{symbol.words}</Table.Td>
                    <Table.Td>{withUnit(shown.value, shown.unit)}</Table.Td>
                    <Table.Td>{unsure ? withUnit(unsure.value, unsure.unit) : '–'}</Table.Td>
                    <Table.Td className={classes.words}>{item.source}</Table.Td>
                  </Table.Tr>
                );
              })}
            </Table.Tbody>
          </Table>
        </div>
        <p className={classes.note}>
          {say('values-are-averages-over-a', { about: formula.about })}
        </p>
        {parts.length > 0 && (
          <>
            <h3>{say('what-makes-it-uncertain')}</h3>
            <ul className={classes.warnings}>
              {parts.slice(0, 6).map((part) => {
                const input = result.inputs.find((item) => item.name === part.input);
                return (
                  <li key={part.input}>
                    {percent(part.share_of_variance)}: {partWords(part.input)}
                    {input && `, ${input.source}`}
                  </li>
                );
              })}
            </ul>
          </>
        )}
        <p>
          <Shown
            say={say}
            id="source-more-in-method"
            values={{ source: formula.source }}
            parts={{ a: <Link to={`/method#${formula.name}`} /> }}
          />
        </p>
      </div>
    </Dialog>
  );
}
