import { createElement } from 'react';
import { renderToStaticMarkup } from 'react-dom/server';
import { describe, expect, it } from 'vitest';
import RenderedMarkdown from './RenderedMarkdown.tsx';

const render = (text: string): string => renderToStaticMarkup(createElement(RenderedMarkdown, null, text));
const flat = (html: string): string => html.replaceAll('\n', '');

/* Examples of the CommonMark specification, version 0.31.2, by its sections; their texts are from memory. */
const EXAMPLES: readonly (readonly [section: string, text: string, html: string])[] = [
  ['4.1 thematic breaks', '***\n---\n___', '<hr/><hr/><hr/>'],
  ['4.2 ATX headings', '# foo\n## foo\n### foo', '<h1>foo</h1><h2>foo</h2><h3>foo</h3>'],
  ['4.2 seven # are no heading', '####### foo', '<p>####### foo</p>'],
  ['4.3 setext headings', 'Foo *bar*\n=========', '<h1>Foo <em>bar</em></h1>'],
  [
    '4.4 indented code',
    '    a simple\n      indented code block',
    '<pre><code>a simple  indented code block</code></pre>',
  ],
  ['4.5 fenced code', '```\n<\n >\n```', '<pre><code>&lt; &gt;</code></pre>'],
  ['4.8 paragraphs', 'aaa\n\nbbb', '<p>aaa</p><p>bbb</p>'],
  ['5.1 block quotes', '> # Foo\n> bar\n> baz', '<blockquote><h1>Foo</h1><p>barbaz</p></blockquote>'],
  ['5.3 lists', '- foo\n- bar\n+ baz', '<ul><li>foo</li><li>bar</li></ul><ul><li>baz</li></ul>'],
  ['5.3 ordered lists', '1. foo\n2. bar\n3) baz', '<ol><li>foo</li><li>bar</li></ol><ol start="3"><li>baz</li></ol>'],
  ['6.1 code spans', '`foo`', '<p><code>foo</code></p>'],
  ['6.2 emphasis', '*foo bar*', '<p><em>foo bar</em></p>'],
  ['6.2 no emphasis', 'a * foo bar*', '<p>a * foo bar*</p>'],
  ['6.2 strong', '**foo bar**', '<p><strong>foo bar</strong></p>'],
  ['6.2 inside a word', 'foo*bar*', '<p>foo<em>bar</em></p>'],
  ['6.7 hard breaks', 'foo  \nbaz', '<p>foo<br/>baz</p>'],
  ['2.4 backslash escapes', '\\*not emphasized*', '<p>*not emphasized*</p>'],
  ['2.5 entities', '&copy; &AElig;', '<p>© Æ</p>'],
];

describe('an instruction', () => {
  it.each(EXAMPLES)('reads as CommonMark has it: %s', (_section, text, html) => {
    expect(flat(render(text))).toBe(html);
  });

  /* Injections of the OWASP XSS Filter Evasion Cheat Sheet, from memory, as HTML and as the address of a link or picture. */
  it.each([
    '<SCRIPT SRC=https://xss.example/xss.js></SCRIPT>',
    '<IMG SRC="javascript:alert(\'XSS\');">',
    '<IMG SRC=JaVaScRiPt:alert(1)>',
    '<IMG SRC=/ onerror="alert(1)"></img>',
    '<a onmouseover="alert(1)">x</a>',
    '<<SCRIPT>alert("XSS");//\\<</SCRIPT>',
    '<svg onload=alert(1)>',
    '<iframe src="javascript:alert(1)"></iframe>',
    '<body onload=alert(1)>',
    '<div style="background-image: url(javascript:alert(1))">',
    '<meta http-equiv="refresh" content="0;url=javascript:alert(1)">',
    '<object type="text/x-scriptlet" data="https://xss.example"></object>',
    '<input type="image" src="javascript:alert(1)">',
    '[x](javascript:alert(1))',
    '[x](JaVaScRiPt:alert(1))',
    '[x](java\nscript:alert(1))',
    '[x](&#106;avascript:alert(1))',
    '[x](data:text/html;base64,PHNjcmlwdD5hbGVydCgxKTwvc2NyaXB0Pg)',
    '[x](vbscript:msgbox("XSS"))',
    '![x](javascript:alert(1))',
    '<javascript:alert(1)>',
    '[x]: javascript:alert(1)\n\n[x]',
  ])('runs nothing of %s', (text) => {
    const html = render(text);
    expect(html).not.toMatch(/<(script|iframe|svg|body|meta|object|input|div|img)\b/i);
    expect(html).not.toMatch(/<[^>]*\son\w+=/i);
    expect(html).not.toMatch(/(href|src)="\s*(java|vb)script:|(href|src)="data:/i);
  });

  it('opens links beside the page, telling the other side nothing', () => {
    expect(render('[here](https://hollin-marsh.example)')).toContain(
      'href="https://hollin-marsh.example" target="_blank" rel="noopener noreferrer nofollow"',
    );
  });

  it('shows whom it mentions, and follows no address that would run something', () => {
    const id = '01900000-0000-7000-8000-000000020003';
    expect(flat(render(`Ask [@Priya Nandan](person:${id})`))).toBe('<p>Ask <b class="mention">@Priya Nandan</b></p>');
    expect(render('[a](javascript:alert(1))')).not.toContain('javascript');
  });
});
