/** The script that answers for an ONNX graph that looks at pictures. */
import { standBy } from '../standingBy'
import { serve } from './served'

standBy(serve)
