import { drawVisitorPage } from './drawing'

drawVisitorPage()
