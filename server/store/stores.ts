/** The stores of all studios over one connection. */
import { Shelf } from './shelf'
import { StudioStore } from './studioStore'
import type { Connection, Scope } from './port'

interface Rooms {
  readonly shelf: Shelf
  readonly studio: StudioStore
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

  private roomsOf({ studio }: Scope): Rooms {
    const found = this.rooms.get(studio) ?? {
      shelf: new Shelf(this.connection.db, { studio }, this.newId, this.changed),
      studio: new StudioStore(this.connection, { studio }, this.changed),
    }
    this.rooms.set(studio, found)
    return found
  }
}
