/** A process that reads files, one after another: a damaged one may end it, and nothing else. */
import { type PictureTask, type ReadTask, pictureTask, readTask } from './read-file.ts';

process.on('message', (task: ReadTask | PictureTask) => {
  const answered = 'picture' in task ? pictureTask(task) : readTask(task);
  answered.then(
    (answer) => process.send!({ answer }),
    (error: Error) => process.send!({ failed: error.stack ?? error.message })
  );
});
process.on('disconnect', () => process.exit(0));
process.send!({ ready: true });
