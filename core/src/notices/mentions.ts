/** A mention in Markdown is a link whose address names the person: `[@Name](person:id)`. */
const MENTION = /\[@(?<name>[^\]\n]{1,200})\]\(person:(?<id>[0-9a-f]{8}(?:-[0-9a-f]{4}){3}-[0-9a-f]{12})\)/g;

/** The ids of the people whom a text in Markdown mentions, each once, in the order in which they stand. */
export const mentionsIn = (text: string): readonly string[] => [
  ...new Set([...text.matchAll(MENTION)].map(({ groups }) => groups?.id ?? '')),
];

/** The address of a mention's link. */
export const mentionOf = ({ id, name }: { readonly id: string; readonly name: string }): string =>
  `[@${name}](person:${id})`;

/** The text with each `@Name` of the people made a mention; longer names first, so that no name hides in another. */
export function withMentions(text: string, people: readonly { readonly id: string; readonly name: string }[]): string {
  const byName = new Map(people.filter(({ name }) => name !== '').map((person) => [person.name, person]));
  const names = [...byName.keys()].sort((a, b) => b.length - a.length).map(escaped);
  if (names.length === 0) return text;
  const written = new RegExp(`(?<![\\w[])@(${names.join('|')})(?![\\p{L}\\p{N}])`, 'gu');
  return text.replace(written, (whole, name: string) => {
    const person = byName.get(name);
    return person ? mentionOf(person) : whole;
  });
}

const escaped = (name: string): string => name.replace(/[.*+?^${}()|[\]\\]/g, '\\$&');
