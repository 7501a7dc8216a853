/** The name by which a thread takes memory: above that of the process's own thread, which is 1. */
export const ownerOf = (threadId: number): number => threadId + 1;
