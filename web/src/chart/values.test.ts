import { describe, expect, it } from 'vitest';
import { covers } from './picture';
import { fileName } from './saving';
import { cellText, csvOf, SHOWN_ROWS, shownRows } from './values';

describe('the values behind a drawing', () => {
  it('are a file that a spreadsheet reads and never runs', () => {
    const csv = csvOf({
      columns: ['test', 'Wh/mi'],
      rows: [
        ['=SUM(A1)', -1.5],
        ['said "so", twice', null],
      ],
    });
    expect(csv).toBe(`test,Wh/mi\r\n'=SUM(A1),-1.5\r\n"said ""so"", twice",\r\n`);
  });

  it('are read with a true minus and a dash for what is not known', () => {
    expect(cellText(-0.123456)).toBe('−0.12346');
    expect(cellText(null)).toBe('–');
  });

  it('are thinned on the page, first and last kept', () => {
    const rows = Array.from({ length: 601 }, (_, k) => [k]);
    const shown = shownRows({ columns: ['k'], rows });
    expect(shown.length).toBe(SHOWN_ROWS);
    expect([shown[0], shown.at(-1)]).toEqual([[0], [600]]);
  });
});

describe('a saved picture', () => {
  it('has a name that every file system takes', () => {
    expect(fileName('Ø 25 °C: Wh/mi over “A”?')).toBe('limpet-25-c-wh-mi-over-a');
    expect(fileName('…')).toBe('limpet-drawing');
  });

  it('carries the fonts whose characters it has, and no others', () => {
    expect(covers('U+0-FF, U+131', 'mi')).toBe(true);
    expect(covers('U+0-FF, U+131', 'ı')).toBe(true);
    expect(covers('U+100-2AF', 'mi')).toBe(false);
    expect(covers('', 'mi')).toBe(true);
  });
});
