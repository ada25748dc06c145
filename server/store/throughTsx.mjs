/** Where the server runs from its sources, a thread is translated as they are: the one that its argument names. */
import { register } from 'tsx/esm/api'

register()
await import(process.argv[2])
