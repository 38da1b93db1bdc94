/** The case that the visitor's page in the frame shows now; null before it said so. */
import { createContext } from 'react'
import type { Inputs } from '../../api/client'

export const ShownCase = createContext<Inputs | null>(null)
