import { configure } from '@testing-library/react';

// Waiting is for something to be seen, however slow the machine: a test that fails by the clock
// says nothing of the code.
configure({ asyncUtilTimeout: 20_000 });
