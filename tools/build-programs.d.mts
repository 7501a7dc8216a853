export function buildPrograms(): Promise<void>;
