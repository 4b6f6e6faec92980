export { parseLine, readRepeat, typedDates } from '@corvun/core';
