// The environment of component tests: jsdom, with what browsers have and jsdom lacks.

const { TestEnvironment } = require('jest-environment-jsdom');

module.exports = class extends TestEnvironment {
  async setup() {
    await super.setup();
    for (const name of ['TextEncoder', 'TextDecoder', 'structuredClone', 'Response', 'Headers', 'Request'])
      this.global[name] ??= globalThis[name];
  }
};
