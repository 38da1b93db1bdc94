/** The script that answers for a compiled model of flattened pixels. */
import { standBy } from '../../standingBy'
import { serve } from './served'

standBy(serve)
