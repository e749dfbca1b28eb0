import { lazy, Suspense } from 'react';

const Rendered = lazy(() => import('./RenderedMarkdown.tsx'));

/** Text in Markdown (CommonMark), without the HTML that may stand in it. */
export function Markdown({ children }: { children: string }) {
  if (children.trim() === '') return null;
  return (
    <div className="markdown">
      <Suspense fallback={<p>{children}</p>}>
        <Rendered>{children}</Rendered>
      </Suspense>
    </div>
  );
}
