export function claim(file: string, told: string): () => void;
