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
    // Nothing is laid out in jsdom, so nothing ever changes its size or comes into view.
    class Watching {
      observe() {}
      unobserve() {}
      disconnect() {}
    }
    this.global.CSS ??= { supports: () => false, escape: (text) => text };
    this.global.ResizeObserver ??= Watching;
    this.global.IntersectionObserver ??= Watching;
    this.global.visualViewport ??= Object.assign(new this.global.EventTarget(), {
      width: 1280,
      height: 800,
      offsetLeft: 0,
      offsetTop: 0,
    });
    this.global.matchMedia ??= () => ({ matches: false, addEventListener: () => undefined, removeEventListener: () => undefined });
  }
}
