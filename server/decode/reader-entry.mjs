// A process that reads files, one after another: a damaged one may end it, and nothing else.
import { register } from 'tsx/esm/api';

register();
const { readTask } = await import('./read-file.ts');
process.on('message', async (task) => {
  try {
    process.send({ answer: await readTask(task) });
  } catch (error) {
    process.send({ failed: String(error?.stack ?? error) });
  }
});
process.on('disconnect', () => process.exit(0));
process.send({ ready: true });
