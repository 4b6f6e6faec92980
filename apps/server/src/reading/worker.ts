/** What runs in the threads that read what arrives; see `ReadingPool`. */
export { facts, headers, mail, note, objects, stream } from './jobs';
