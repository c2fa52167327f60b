// Tests read numbers and dates as a reader in Britain does, whatever machine they run on.
Object.defineProperty(globalThis.navigator ?? {}, 'languages', {
  value: ['en-GB'],
  configurable: true,
});
