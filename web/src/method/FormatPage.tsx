import { useQuery } from '@tanstack/react-query';
import Markdown from 'react-markdown';
import { Link, useParams } from 'react-router';
import remarkGfm from 'remark-gfm';
import { Page, Trouble, Waiting } from '../ui/Page';
import { say } from '../words/en/method.ftl';
import classes from './Method.module.css';

/** The formats' pages as they stand in the docs, each loaded when it is opened. */
const PAGES: Record<string, () => Promise<{ default: string }>> = {
  bundle: () => import('../../../docs/formats/bundle.md?raw'),
  trip: () => import('../../../docs/formats/trip.md?raw'),
  claim: () => import('../../../docs/formats/claim.md?raw'),
  cell: () => import('../../../docs/formats/cell.md?raw'),
  README: () => import('../../../docs/formats/README.md?raw'),
};

/** A format's page. */
export function FormatPage() {
  const { name = '' } = useParams();
  const load = PAGES[name];
  const text = useQuery({
    queryKey: ['format-page', name],
    queryFn: async () => (load ? (await load()).default : null),
    staleTime: Number.POSITIVE_INFINITY,
  });
  return (
    <Page
      name={say('format')}
      title={<b>{say('formats')}</b>}
      actions={<Link to="/method#formats">{say('back-to-method')}</Link>}
    >
      {text.isPending && <Waiting rows={5} height={40} />}
      {text.error && <Trouble error={text.error} onRetry={() => text.refetch()} />}
      {text.data === null && <Trouble error={new Error(say('there-is-no-format-with'))} />}
      {text.data && (
        <div className={`${classes.page} ${classes.table} ${classes.prose}`}>
          <Markdown
            remarkPlugins={[remarkGfm]}
            components={{
              h1: ({ children }) => <h2>{children}</h2>,
              h2: ({ children }) => <h3>{children}</h3>,
              a: ({ href = '', children }) => <a href={addressOf(href)}>{children}</a>,
            }}
          >
            {text.data}
          </Markdown>
        </div>
      )}
    </Page>
  );
}

/** Where a link of the docs leads in the application. */
function addressOf(href: string): string {
  if (href.endsWith('.schema.json')) return `/api/formats/${href}`;
  return href.endsWith('.md') ? `/method/formats/${href.replace(/^.*\//, '').slice(0, -3)}` : href;
}
