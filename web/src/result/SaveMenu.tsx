import { Menu } from '@mantine/core';
import { Link } from 'react-router';
import type { TestDetail } from '../api/queries';
import { say } from '../words/en/result.ftl';
import classes from './Result.module.css';

/** A test out of Limpet, in the formats that it has something for; and a second instrument into it. */
export function SaveMenu({ test }: { test: TestDetail }) {
  const files = [
    ['bundle.zip', say('as-a-bundle'), true],
    ['file/xlsx', say('as-a-workbook'), test.result !== null],
    ['file/csv', say('samples-as-csv'), test.has_samples],
    ['file/parquet', say('samples-as-parquet'), test.has_samples],
    ['file/gpx', say('track-as-gpx'), test.path !== null],
    ['file/geojson', say('track-as-geojson'), test.path !== null],
    ['result.json', say('result-as-json'), test.result !== null],
  ] as const;
  return (
    <Menu position="bottom-end" withinPortal={false}>
      <Menu.Target>
        <button type="button" className={classes.link}>
          {say('save-as')}
        </button>
      </Menu.Target>
      <Menu.Dropdown>
        {files
          .filter(([, , there]) => there)
          .map(([file, label]) => (
            <Menu.Item key={file} component="a" href={`/api/tests/${test.id}/${file}`} download>
              {label}
            </Menu.Item>
          ))}
        <Menu.Divider />
        <Menu.Item component={Link} to={`/import?test=${test.id}`}>
          {say('add-a-file')}
        </Menu.Item>
      </Menu.Dropdown>
    </Menu>
  );
}
