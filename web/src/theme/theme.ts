import { createTheme, type MantineColorsTuple } from '@mantine/core';

const tide: MantineColorsTuple = [
  '#e6f3f2',
  '#cfe5e3',
  '#a2cbc8',
  '#72b0ac',
  '#4a9994',
  '#2f8a86',
  '#1d7f7b',
  '#0f6b6b',
  '#0a5c5c',
  '#034c4c',
];

/** Mantine in Limpet's look: square-ish, flat, one accent. */
export const theme = createTheme({
  colors: { tide },
  primaryColor: 'tide',
  // White on either has a contrast of 4.8 or more.
  primaryShade: { light: 7, dark: 6 },
  autoContrast: true,
  respectReducedMotion: true,
  fontFamily: "'Atkinson Hyperlegible Next Variable', system-ui, sans-serif",
  fontFamilyMonospace: "'Atkinson Hyperlegible Mono Variable', monospace",
  defaultRadius: 4,
  headings: { fontWeight: '600' },
  components: {
    Button: { defaultProps: { variant: 'default' } },
    // Lines and rooms are Limpet's own (`ui/Parts.module.css`).
    Table: {
      defaultProps: { withRowBorders: false, verticalSpacing: 0, horizontalSpacing: 0 },
      styles: { table: { lineHeight: 'inherit' } },
    },
    Modal: {
      defaultProps: { centered: true, overlayProps: { opacity: 0.45 } },
      styles: { content: { boxShadow: 'none', border: '1px solid var(--hair)' } },
    },
    Select: { defaultProps: { allowDeselect: false, comboboxProps: { shadow: 'none' } } },
    // A menu's children are its items alone, as its role asks.
    Menu: { defaultProps: { shadow: 'none', withInitialFocusPlaceholder: false } },
    // 24 px: the least that a finger or a trembling hand can be asked to hit.
    Radio: { defaultProps: { size: 'md' } },
    Checkbox: { defaultProps: { size: 'md' } },
    Switch: { defaultProps: { size: 'md' } },
    Notification: {
      defaultProps: { closeButtonProps: { 'aria-label': 'Close' } },
      styles: { root: { boxShadow: 'none', border: '1px solid var(--hair)' } },
    },
  },
});
