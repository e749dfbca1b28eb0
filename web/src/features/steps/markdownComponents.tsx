import type { Components } from 'react-markdown';

/** Links open beside the page, and tell the other side nothing; pictures are not fetched from anywhere. */
export const COMPONENTS: Components = {
  a: ({ href, children }) => (
    <a href={href} target="_blank" rel="noopener noreferrer nofollow">
      {children}
    </a>
  ),
  img: ({ alt }) => <em>{alt}</em>,
};
