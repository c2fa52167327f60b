import { Menu } from '@mantine/core';
import { useDisclosure, useHotkeys, useNetwork } from '@mantine/hooks';
import { spotlight } from '@mantine/spotlight';
import { NavLink, Outlet, useNavigate } from 'react-router';
import type { Session } from '../api/queries';
import { Mark } from './Mark';
import { Palette } from './Palette';
import { ON_THE_BAR, PLACES } from './places';
import classes from './Shell.module.css';
import { ShortcutList } from './ShortcutList';
import { UnitsDialog } from './UnitsDialog';
import { useSignOut } from './useSignOut';

/** The frame of every place: a slim rail at the bench, a bar on the phone. */
export function Shell({ session }: { session: Session }) {
  const navigate = useNavigate();
  const { online } = useNetwork();
  const signOut = useSignOut();
  const [unitsOpen, units] = useDisclosure(false);
  const [listOpen, list] = useDisclosure(false);
  useHotkeys([
    ...PLACES.map((place) => [place.shortcut, () => navigate(place.path)] as [string, () => void]),
    ['shift+?', list.open],
  ]);
  return (
    <div className={classes.shell}>
      {!online && (
        <div className={classes.offline} role="status">
          No signal. What you note in Ride is kept on this device and sent when it is back.
        </div>
      )}
      <nav className={classes.rail} aria-label="Places">
        <NavLink to="/logbook" className={classes.home} aria-label="Limpet, to the logbook">
          <Mark />
        </NavLink>
        {PLACES.map((place, index) => (
          <NavLink
            key={place.path}
            to={place.path}
            className={`${classes.place} ${index < ON_THE_BAR ? '' : classes.desk}`}
          >
            {place.label}
            <kbd>{place.shortcut}</kbd>
          </NavLink>
        ))}
        <div className={classes.foot}>
          <button
            type="button"
            className={`${classes.quiet} ${classes.desk}`}
            onClick={spotlight.open}
          >
            Find · Ctrl K
          </button>
          <Menu position="top-start" width={190}>
            <Menu.Target>
              <button type="button" className={classes.quiet}>
                <span className={classes.desk}>
                  {session.demo ? 'Demo rider' : session.username}
                </span>
                <span className={classes.phone}>More</span>
              </button>
            </Menu.Target>
            <Menu.Dropdown>
              {PLACES.slice(ON_THE_BAR).map((place) => (
                <Menu.Item
                  key={place.path}
                  className={classes.phone}
                  onClick={() => navigate(place.path)}
                >
                  {place.label}
                </Menu.Item>
              ))}
              <Menu.Item onClick={units.open}>Units and theme</Menu.Item>
              <Menu.Item onClick={list.open}>Shortcuts</Menu.Item>
              <Menu.Item component="a" href="/api/docs">
                API
              </Menu.Item>
              <Menu.Item onClick={() => signOut.mutate()}>Sign out</Menu.Item>
            </Menu.Dropdown>
          </Menu>
        </div>
      </nav>
      <main className={classes.main}>
        <Outlet />
      </main>
      <Palette />
      <UnitsDialog opened={unitsOpen} onClose={units.close} units={session.units} />
      <ShortcutList opened={listOpen} onClose={list.close} />
    </div>
  );
}
