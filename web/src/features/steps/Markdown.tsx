import { lazy, Suspense } from 'react';
import type { Components } from 'react-markdown';

const Rendered = lazy(() => import('react-markdown'));

/** Links open beside the page, and tell the other side nothing; pictures are not fetched from anywhere. */
const COMPONENTS: Components = {
  a: ({ href, children }) => (
    <a href={href} target="_blank" rel="noopener noreferrer nofollow">
      {children}
    </a>
  ),
  img: ({ alt }) => <em>{alt}</em>,
};

/** Text in Markdown (CommonMark), without the HTML that may stand in it. */
export function Markdown({ children }: { children: string }) {
  if (children.trim() === '') return null;
  return (
    <div className="markdown">
      <Suspense fallback={<p>{children}</p>}>
        <Rendered skipHtml components={COMPONENTS}>
          {children}
        </Rendered>
      </Suspense>
    </div>
  );
}
