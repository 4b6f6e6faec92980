/** What runs in the threads that read what arrives; see `ReadingPool`. */
export { facts, headers, mail, note, stream } from './jobs';
