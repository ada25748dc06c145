/** The stores of all studios over one connection. */
import { getTableName } from 'drizzle-orm'
import { arrangements, shelves, studioParts, tunes, versions } from './schema'
import { Shelf } from './shelf'
import { StudioStore } from './studioStore'
import type { Connection, Scope } from './port'

interface Rooms {
  readonly shelf: Shelf
  readonly studio: StudioStore
}

const TABLES = [tunes, arrangements, versions, studioParts, shelves]

/** A table that is damaged, or that cannot be reached. */
export class UnreadableTable extends Error {
  constructor(
    readonly table: string,
    cause: unknown,
  ) {
    super(`the table ${table} can’t be read`, { cause })
  }
}

export class Stores {
  /** What they hold in memory is only what saves reading it again. */
  private readonly rooms = new Map<string, Rooms>()

  constructor(
    private readonly connection: Connection,
    private readonly newId: () => string,
    /** Called after every change made through these. */
    private readonly changed: () => void = () => {},
  ) {}

  shelf = (of: Scope) => this.roomsOf(of).shelf
  studio = (of: Scope) => this.roomsOf(of).studio

  /** Goes over every table once, without its documents. Throws {@link UnreadableTable}. */
  async check(): Promise<void> {
    for (const table of TABLES) {
      try {
        await this.connection.db.$count(table)
      } catch (e) {
        throw new UnreadableTable(getTableName(table), e)
      }
    }
  }

  private roomsOf({ studio }: Scope): Rooms {
    const found = this.rooms.get(studio) ?? {
      shelf: new Shelf(this.connection.db, { studio }, this.newId, this.changed),
      studio: new StudioStore(this.connection, { studio }, this.changed),
    }
    this.rooms.set(studio, found)
    return found
  }
}
