/** Builds the web application if anything it is made of has changed since, and says whether it had. */
export function buildWeb(): Promise<'up to date' | 'built'>;
