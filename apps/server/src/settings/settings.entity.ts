import type { Settings } from '@corvun/core';
import { Column, Entity, Index } from 'typeorm';
import { Row } from '../base/row';

/** What a user chose; one row each. What is asked for with every request stands at the user, too. */
@Entity('settings')
@Index('settings_owner', ['ownerId'], { unique: true })
export class SettingsRow extends Row {
  @Column('simple-json') chosen: Partial<Settings>;
}
