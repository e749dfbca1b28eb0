export function findChromium(): string | undefined;
export function installChromium(): Promise<void>;
