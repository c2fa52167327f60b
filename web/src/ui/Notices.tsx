import type { Schemas } from '../api/client';
import { Explained } from './Explained';

/** What the core says, a paragraph each; nothing where it says nothing. */
export function Notices({ notices }: { notices: ReadonlyArray<Schemas['NoticeOut']> }) {
  return notices.map((notice) => (
    <p key={notice.code + notice.message}>
      <Explained text={notice.message} />
    </p>
  ));
}
