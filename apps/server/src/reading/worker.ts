/** What runs in the threads that read what arrives; see `ReadingPool`. */
export { changed, expanded, facts, freeBusy, headers, mail, multistatus, note, objects, stream, texts, xml } from './jobs';
