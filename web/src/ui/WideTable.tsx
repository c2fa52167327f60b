import { Table } from '@mantine/core';
import type { ReactNode } from 'react';
import parts from './Parts.module.css';

/** A table that may be wider than its place: it is moved by key as well as by finger. */
export function WideTable({ label, children }: { label: string; children: ReactNode }) {
  return (
    // biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls must be reached by key (axe)
    <section className={parts.table} aria-label={label} tabIndex={0}>
      <Table>{children}</Table>
    </section>
  );
}
