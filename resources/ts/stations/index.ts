import { useSettings } from '../stores/settings'
import { check } from './check'
import { cut } from './cut'
import { motion } from './motion'
import { plate } from './plate'
import type { Station } from './Station'

/** All stations, in the order of their tabs. */
export const STATIONS: Station[] = [check, cut, plate, motion]

/** The open one. */
export const station = (): Station => STATIONS.find(({ id }) => id === useSettings().station) ?? cut

/** The one after it. */
export const next = (): Station => STATIONS[(STATIONS.indexOf(station()) + 1) % STATIONS.length]
