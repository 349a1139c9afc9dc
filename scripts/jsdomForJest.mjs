// A page for tests of components, with what every browser has and jsdom leaves out.
import { TestEnvironment } from 'jest-environment-jsdom';

export default class extends TestEnvironment {
  async setup() {
    await super.setup();
    Object.assign(this.global, { Response, Request, Headers, structuredClone, setImmediate, clearImmediate });
    // Nobody tells of anything here; a test that needs it says so itself.
    this.global.EventSource ??= class {
      close() {}
    };
    this.global.matchMedia ??= () => ({ matches: false, addEventListener: () => undefined, removeEventListener: () => undefined });
  }
}
