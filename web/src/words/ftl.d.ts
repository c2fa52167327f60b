declare module '*.ftl' {
  import type { Messages, Say } from './sayer';

  /** Says the messages of the file, and those that all rooms share. */
  export const say: Say;
  export const messages: Messages;
}
