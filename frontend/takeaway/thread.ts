/**
 * The script that answers. It stands in the page once, and is run twice: in the page, where it only says how to serve, and
 * in a thread beside it, made of the same text, where it serves.
 */
import { damageOf, serve, serveMessages } from './served'

if (typeof document === 'undefined') serveMessages(globalThis as never)
else Object.assign(globalThis, { plainWindowServing: { serve, damageOf } })
