/** What runs in the threads that read what arrives; see `ReadingPool`. */
export {
  changed,
  expanded,
  facts,
  freeBusy,
  headers,
  mail,
  multistatus,
  note,
  objects,
  shaped,
  stream,
  texts,
  xml,
} from './jobs';
