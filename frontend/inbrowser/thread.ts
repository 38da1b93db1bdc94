/** The script that answers for a model of rows. */
import { serve } from './served'
import { standBy } from './standingBy'

standBy(serve)
