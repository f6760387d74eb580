import { configure } from '@testing-library/react';

// Waiting is for something to be seen, however slow the machine: a test that fails by the clock
// says nothing of the code.
configure({ asyncUtilTimeout: 20_000 });

// jsdom lays nothing out: what only follows sizes and scrolling gets empty hands.
globalThis.ResizeObserver ??= class {
  observe() {
    /* no layout */
  }
  unobserve() {
    /* no layout */
  }
  disconnect() {
    /* no layout */
  }
};
Element.prototype.scrollIntoView = () => undefined;
