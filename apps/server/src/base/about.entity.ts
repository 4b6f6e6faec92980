import { Column, Entity, PrimaryColumn } from 'typeorm';

/** What the database says of itself and of the server's own settings, by name. */
@Entity('about')
export class About {
  @PrimaryColumn('text') name: string;
  @Column('text') value: string;
}
