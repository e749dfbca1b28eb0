const kind = (place: number, name: string) => ({ id: `01900000-0000-7000-8000-00000006000${place}`, name });

/** What the documents of Hollin & Marsh are. */
export const DOCUMENT_KINDS = [
  kind(1, 'Survey report'),
  kind(2, 'Layout'),
  kind(3, 'Quote'),
  kind(4, 'Signed contract'),
] as const;
