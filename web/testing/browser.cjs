// The environment of component tests: jsdom, with what browsers have and jsdom lacks.

const { TestEnvironment } = require('jest-environment-jsdom');

module.exports = class extends TestEnvironment {
  async setup() {
    await super.setup();
    for (const name of ['TextEncoder', 'TextDecoder', 'structuredClone', 'Response', 'Headers', 'Request'])
      this.global[name] ??= globalThis[name];
    // jsdom lays nothing out: there is nothing to observe, to scroll to or to capture.
    this.global.ResizeObserver ??= class {
      observe() {}
      unobserve() {}
      disconnect() {}
    };
    const { Blob, FileReader } = this.global;
    Blob.prototype.text ??= function text() {
      return new Promise((resolve) => {
        const reader = new FileReader();
        reader.onload = () => resolve(reader.result);
        reader.readAsText(this);
      });
    };
    Object.assign(this.global.Element.prototype, {
      scrollIntoView() {},
      scrollTo() {},
      hasPointerCapture: () => false,
      setPointerCapture() {},
      releasePointerCapture() {},
    });
  }
};
