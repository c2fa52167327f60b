import { Menu } from '@mantine/core';
import { useDisclosure, useHotkeys, useNetwork } from '@mantine/hooks';
import { lazy, Suspense, useEffect, useRef, useState } from 'react';
import { NavLink, Outlet, useLocation, useNavigate } from 'react-router';
import { useRenewDemo } from '../account/useRenewDemo';
import { useSignOut } from '../account/useSignOut';
import type { Session } from '../api/queries';
import { unitsKey } from '../format/units';
import { loadAhead } from '../places/parts';
import { ON_THE_BAR, PLACES } from '../places/places';
import { Boundary } from '../ui/Boundary';
import { Screen } from '../ui/Explained';
import { Mark } from '../ui/Mark';
import { Waiting } from '../ui/Page';
import { openPalette, usePaletteAsked } from '../ui/palette';
import { say } from '../words/en/shell.ftl';
import { NewDevices } from './NewDevices';
import classes from './Shell.module.css';
import { ShortcutList } from './ShortcutList';
import { UpdateBar } from './UpdateBar';
import { useDropped } from './useDropped';

// Dialogs are loaded when one is opened.
const PasswordDialog = lazy(() =>
  import('../account/PasswordDialog').then((m) => ({ default: m.PasswordDialog })),
);
const UnitsDialog = lazy(() => import('./UnitsDialog').then((m) => ({ default: m.UnitsDialog })));
// It comes after the page, so that it is there when its key is pressed.
const Palette = lazy(() => import('./Palette').then((m) => ({ default: m.Palette })));
const SignOutDialog = lazy(() =>
  import('../account/SignOutDialog').then((m) => ({ default: m.SignOutDialog })),
);

/** The frame of every place: a slim rail at the bench, a bar on the phone. */
export function Shell({ session }: { session: Session }) {
  const navigate = useNavigate();
  const { pathname } = useLocation();
  const { online } = useNetwork();
  const signOut = useSignOut();
  const renew = useRenewDemo();
  useDropped();
  const [unitsOpen, units] = useDisclosure(false);
  const [listOpen, list] = useDisclosure(false);
  const [passwordOpen, password] = useDisclosure(false);
  const [leaving, setLeaving] = useState<number | null>(null);
  const asked = usePaletteAsked();
  const content = useFocusOnChange(pathname);
  /** Asked only where something would be left behind. */
  const leave = async () => {
    const acts = await import('../roadside/acts');
    const unsent = await acts.countUnsent().catch(() => 0);
    if (unsent > 0 || !online) setLeaving(unsent);
    else signOut.mutate(true);
  };
  // What is typed for a palette that is still on its way is no key of a place.
  const [finding, setFinding] = useState(false);
  const places = asked > 0 && !finding ? [] : PLACES;
  useHotkeys([
    ...places.map((place) => [place.shortcut, () => navigate(place.path)] as [string, () => void]),
    ['shift+?', list.open],
    ['mod+K', openPalette],
  ]);

  return (
    <div className={classes.shell}>
      <a href="#content" className={classes.skip}>
        {say('skip-to-the-content')}
      </a>
      {!online && (
        <div className={classes.offline} role="status">
          {say('youre-offline-what-you-note')}
        </div>
      )}
      <UpdateBar />
      <NewDevices session={session} />
      <nav className={classes.rail} aria-label={say('places')}>
        <NavLink to="/logbook" className={classes.home} aria-label={say('limpet-to-the-logbook')}>
          <Mark />
        </NavLink>
        {PLACES.map((place, index) => (
          <NavLink
            key={place.path}
            to={place.path}
            className={`${classes.place} ${index < ON_THE_BAR ? '' : classes.desk}`}
            onPointerEnter={() => loadAhead(place.path)}
            onFocus={() => loadAhead(place.path)}
          >
            {place.label}
            <kbd>{place.shortcut}</kbd>
          </NavLink>
        ))}
        <div className={classes.foot}>
          <button
            type="button"
            className={`${classes.quiet} ${classes.desk}`}
            onClick={openPalette}
          >
            {say('find-ctrl-k')}
          </button>
          <Menu position="top-start" width={210} portalProps={{ target: '#content' }}>
            <Menu.Target>
              <button type="button" className={classes.quiet}>
                <span className={classes.desk}>
                  {session.demo ? say('demo-rider') : session.username}
                </span>
                <span className={classes.phone}>{say('more')}</span>
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
              <Menu.Item onClick={() => navigate('/account')}>{say('account')}</Menu.Item>
              <Menu.Item onClick={() => navigate('/phone')}>
                {say('use-it-on-your-phone')}
              </Menu.Item>
              <Menu.Item onClick={units.open}>{say('settings')}</Menu.Item>
              <Menu.Item onClick={list.open}>{say('shortcuts')}</Menu.Item>
              <Menu.Item component="a" href="/api/docs">
                {say('api')}
              </Menu.Item>
              {session.demo ? (
                <Menu.Item onClick={() => renew.mutate()}>{say('reset-the-demo')}</Menu.Item>
              ) : (
                <Menu.Item onClick={password.open}>{say('password')}</Menu.Item>
              )}
              <Menu.Item onClick={() => leave()}>{say('sign-out')}</Menu.Item>
            </Menu.Dropdown>
          </Menu>
        </div>
      </nav>
      <main className={classes.main} id="content" ref={content} tabIndex={-1}>
        {renew.isPending ? (
          <p role="status">{say('resetting-the-demo-this-takes')}</p>
        ) : (
          // What was typed without a unit was meant in the one that stood beside it: with other units
          // a place begins anew.
          <Boundary key={`${pathname} ${unitsKey(session.units)}`}>
            <Screen>
              <Suspense fallback={<Waiting rows={4} height={80} />}>
                <Outlet />
              </Suspense>
            </Screen>
          </Boundary>
        )}
      </main>
      <ShortcutList opened={listOpen} onClose={list.close} />
      <Suspense fallback={null}>
        <Palette asked={asked} onReady={setFinding} />
        {unitsOpen && <UnitsDialog opened onClose={units.close} units={session.units} />}
        {leaving !== null && (
          <SignOutDialog
            unsent={leaving}
            online={online}
            onClose={() => setLeaving(null)}
            onLeave={(keep) => {
              setLeaving(null);
              signOut.mutate(keep);
            }}
          />
        )}
        {passwordOpen && <PasswordDialog onClose={password.close} />}
      </Suspense>
    </div>
  );
}

/** After a change of place the focus is on what came, not on what has gone. */
function useFocusOnChange(pathname: string) {
  const content = useRef<HTMLElement>(null);
  const [begunAt] = useState(pathname);
  const moved = useRef(false);
  useEffect(() => {
    if (pathname !== begunAt) moved.current = true;
    if (moved.current) content.current?.focus({ preventScroll: true });
  }, [pathname, begunAt]);
  return content;
}
