import type { Schemas } from '../api/client';

/** What the core says, a paragraph each; nothing where it says nothing. */
export function Notices({ notices }: { notices: ReadonlyArray<Schemas['NoticeOut']> }) {
  return notices.map((notice) => <p key={notice.code + notice.message}>{notice.message}</p>);
}
