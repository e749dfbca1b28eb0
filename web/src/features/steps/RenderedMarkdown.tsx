import ReactMarkdown, { type Components, defaultUrlTransform } from 'react-markdown';

/** How the address of a link begins that mentions a person. */
const MENTION = 'person:';

/** Links open beside the page, and tell the other side nothing; pictures are not fetched from anywhere. */
const COMPONENTS: Components = {
  a: ({ href, children }) =>
    href?.startsWith(MENTION) ? (
      <b className="mention">{children}</b>
    ) : (
      <a href={href} target="_blank" rel="noopener noreferrer nofollow">
        {children}
      </a>
    ),
  img: ({ alt }) => <em>{alt}</em>,
};

/** Addresses of links as they are kept, but for those that would run something. */
const keepAddress = (address: string): string => (address.startsWith(MENTION) ? address : defaultUrlTransform(address));

/** Text in Markdown as it is shown, without the HTML that may stand in it. */
export default function RenderedMarkdown({ children }: { readonly children: string }) {
  return (
    <ReactMarkdown skipHtml components={COMPONENTS} urlTransform={keepAddress}>
      {children}
    </ReactMarkdown>
  );
}
