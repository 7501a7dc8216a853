export function buildKernels(): Promise<void>;
