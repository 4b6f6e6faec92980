import type { TaskFileInfo } from '@corvun/contract';
import { Column, Entity, ForeignKey, Index } from 'typeorm';
import { Row } from '../base/row';

/** A file that was put to a task; its bytes lie in the file store under their hash. */
@Entity('task_file')
export class TaskFile extends Row {
  @Index('task_file_task') @ForeignKey('Task') @Column('text') taskId: string;
  @Column('text') name: string;
  @Column('text') type: string;
  /** Bytes. */
  @Column('integer') size: number;
  @Column('text') hash: string;
  /** By which it is found besides its name; empty where it is no text. */
  @Column('text', { default: '' }) words: string;
}

export const taskFileInfo = ({ id, name, type, size }: TaskFile): TaskFileInfo => ({
  id,
  name,
  type,
  size,
  url: `/api/files/${id}`,
  own: true,
});
