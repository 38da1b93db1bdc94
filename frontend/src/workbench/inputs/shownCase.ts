/** The case that the visitor's page in the frame shows now, and how to have it show another. */
import { createContext } from 'react'
import type { Inputs } from '../../api/client'

/** Null before the page said so. */
export const ShownCase = createContext<Inputs | null>(null)
export const ShowCase = createContext<(inputs: Inputs) => void>(() => undefined)
