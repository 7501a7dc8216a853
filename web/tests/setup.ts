/** The app is built once, before tests start it side by side. */
import { buildApp } from '../../server/start/build-app.ts';

export default function setup(): void {
  buildApp(() => {});
}
