import type { AttachmentInfo } from '@corvun/contract';
import { Column, Entity, Index } from 'typeorm';
import { Row } from '../base/row';

/**
 * A file that was put to an event; its bytes lie in the file store under their hash. It goes with the UID: into another
 * calendar, and back when an event that was taken away is there again.
 */
@Entity('event_file')
export class EventFile extends Row {
  @Index('event_file_uid') @Column('text') eventUid: string;
  @Column('text') name: string;
  @Column('text') type: string;
  /** Bytes. */
  @Column('integer') size: number;
  @Column('text') hash: string;
  /** By which it is found besides its name; empty where it is no text. */
  @Column('text') words: string;
}

export const eventFileInfo = ({ id, name, type, size }: EventFile): AttachmentInfo => ({
  ...{ id, name, type, size },
  url: `/api/files/${id}`,
});
