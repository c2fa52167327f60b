import { NavLink } from 'react-router';
import classes from './Tabs.module.css';

interface TabsProps {
  label: string;
  tabs: ReadonlyArray<{ to: string; label: string; end?: boolean }>;
}

/** The parts of a place, side by side under its first line. */
export function Tabs({ label, tabs }: TabsProps) {
  return (
    <nav className={classes.tabs} aria-label={label}>
      {tabs.map((tab) => (
        <NavLink key={tab.to} to={tab.to} end={tab.end ?? false} className={classes.tab}>
          {tab.label}
        </NavLink>
      ))}
    </nav>
  );
}
