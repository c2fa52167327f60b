import { Button, Checkbox, Group, SegmentedControl } from '@mantine/core';
import { useRef, useState } from 'react';
import type { Figures, Result, Strip, TestDetail, Units } from '../api/queries';
import { canShare } from '../chart/canShare';
import { pngOf, wholeSvg } from '../chart/picture';
import { download, fileName, sharePicture } from '../chart/saving';
import { day, massText, temperatureText, windText } from '../format/units';
import { Dialog } from '../ui/Dialog';
import { sayTrouble } from '../ui/notes';
import { say } from '../words/en/result.ftl';
import classes from './Result.module.css';
import { ResultPicture, type Shape } from './ResultPicture';
import { threeFigures } from './threeFigures';

interface PictureDialogProps {
  test: TestDetail;
  result: Result;
  figures: Figures;
  strip: Strip;
  units: Units;
  onClose: () => void;
}

/** A result as one picture, made on this device: to save, or for the device's own sharing. */
export function PictureDialog({ test, onClose, ...shown }: PictureDialogProps) {
  const { result, figures, strip, units } = shown;
  const [shape, setShape] = useState<Shape>('wide');
  const [named, setNamed] = useState(false);
  const svg = useRef<SVGSVGElement>(null);
  const name = fileName(named ? test.title : `result ${day(test.started_at)}`);
  async function make(to: (png: Blob, file: string) => unknown) {
    if (svg.current === null) return;
    try {
      // A point of the picture is a pixel of it.
      await to(await pngOf(await wholeSvg(svg.current), 1), `${name}.png`);
    } catch (error) {
      const why = error instanceof Error ? error.message : String(error);
      sayTrouble(say('the-picture-could-not-be', { why }));
    }
  }
  return (
    <Dialog onClose={onClose} title={say('the-result-as-a-picture')} size="xl">
      <Group mb="sm">
        <SegmentedControl
          size="xs"
          aria-label={say('shape')}
          data={[
            { value: 'wide', label: 'wide' },
            { value: 'square', label: 'square' },
          ]}
          value={shape}
          onChange={(value) => setShape(value as Shape)}
        />
        <Checkbox
          label={say('with-the-rides-name')}
          description={say('a-name-may-tell-where')}
          checked={named}
          onChange={(event) => setNamed(event.currentTarget.checked)}
        />
      </Group>
      <ResultPicture
        svg={svg}
        shape={shape}
        head={headOf(test, units, named)}
        said={withoutRider(result, test.rider_name)}
        headlines={threeFigures(figures, result, units, test.started_at)}
        strip={strip}
        units={units}
      />
      <p className={classes.note}>{say('no-place-track-or-riders')}</p>
      <Group justify="flex-end" mt="md">
        <Button variant="subtle" onClick={onClose}>
          {say('close')}
        </Button>
        {canShare() && (
          <Button onClick={() => make((png, file) => sharePicture(png, file, say('range-test')))}>
            {say('share')}
          </Button>
        )}
        <Button variant="filled" onClick={() => make(download)}>
          {say('save-as-png')}
        </Button>
      </Group>
    </Dialog>
  );
}

/** The sentence as it may go anywhere: whoever rode is a rider. */
export function withoutRider(result: Pick<Result, 'verdict'>, name: string | null): string {
  const said = result.verdict.map(({ message }) => message).join(' ');
  return name ? said.replaceAll(name, 'the rider') : said;
}

/** What was ridden and in what conditions; the ride's own name only where the rider wants it. */
function headOf(test: TestDetail, units: Units, named: boolean): string[] {
  const { sheet } = test;
  const kit = [
    test.vehicle_name || sheet?.vehicle_kind.replace('_', ' '),
    sheet?.pack.rated_ah == null ? null : `${sheet.pack.series}s, ${sheet.pack.rated_ah} Ah`,
    day(test.started_at),
  ];
  const conditions = [
    sheet?.temp_start_c == null ? null : temperatureText(sheet.temp_start_c, units),
    sheet?.wind_mps == null ? null : windText(sheet.wind_mps, units),
    sheet?.load_kg == null
      ? null
      : say('rider-and-load', { load_kg: massText(sheet.load_kg, units) }),
  ];
  return [named ? [test.title] : [], kit, conditions]
    .map((line) => line.filter(Boolean).join(' · '))
    .filter((line) => line !== '');
}

export default PictureDialog;
