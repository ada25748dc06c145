/** Imported before any schema is made: the page's security policy forbids code made from text, which schemas would else be compiled to. */
import { z } from 'zod'

z.config({ jitless: true })
