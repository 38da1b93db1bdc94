/** The standard normal distribution: its share below a number, and the number with a share below it. */

const ROOT_2_PI = 2.5066282746310007
/** Beyond exp(−2) from either end another expansion is used. */
const TAIL = 0.1353352832366127

type Ratio = readonly [readonly number[], readonly number[]]

/*
 * Rational approximations of S. L. Moshier's Cephes library (`ndtri`), numerator and denominator, highest power first:
 * the middle, and the tails' two parts.
 */
const MIDDLE: Ratio = [
  [-59.96335010141079, 98.00107541859997, -56.67628574690703, 13.931260938727968, -1.2391658386738125],
  [1, 1.9544885833814176, 4.676279128988815, 86.36024213908905, -225.46268785411937, 200.26021238006066, -82.03722561683334, 15.90562251262117, -1.1833162112133],
]
const NEAR: Ratio = [
  [4.0554489230596245, 31.525109459989388, 57.16281922464213, 44.08050738932008, 14.684956192885803, 2.1866330685079025, -0.1402560791713545, -0.03504246268278482, -0.0008574567851546854],
  [1, 15.779988325646675, 45.39076351288792, 41.3172038254672, 15.04253856929075, 2.504649462083094, -0.14218292285478779, -0.03808064076915783, -0.0009332594808954574],
]
const FAR: Ratio = [
  [3.2377489177694603, 6.915228890689842, 3.9388102529247444, 1.3330346081580755, 0.20148538954917908, 0.012371663481782003, 0.00030158155350823543, 0.0000026580697468673755, 6.239745391849833e-9],
  [1, 6.02427039364742, 3.6798356385616087, 1.3770209948908132, 0.21623699359449663, 0.013420400608854318, 0.00032801446468212774, 0.0000028924786474538068, 6.790194080099813e-9],
]

/** Where the standard normal distribution reaches `p`. */
export function normalQuantile(p: number): number {
  if (p === 0) return -Infinity
  if (p === 1) return Infinity
  if (!(p > 0 && p < 1)) return NaN
  const isUpper = p > 1 - TAIL
  const tail = isUpper ? 1 - p : p
  if (tail > TAIL) {
    const centred = p - 0.5
    const square = centred * centred
    return (centred + centred * ((square * horner(MIDDLE[0], square)) / horner(MIDDLE[1], square))) * ROOT_2_PI
  }
  const root = Math.sqrt(-2 * Math.log(tail))
  const inverse = 1 / root
  const [above, below] = root < 8 ? NEAR : FAR
  const outer = root - Math.log(root) / root - (inverse * horner(above, inverse)) / horner(below, inverse)
  return isUpper ? outer : -outer
}

/** The standard normal distribution's share below `x`. */
export function normalShare(x: number): number {
  return 0.5 * erfc(-x / Math.SQRT2)
}

/*
 * The complementary error function as in FreeBSD's msun (`s_erf.c`, Sun Microsystems 1993): rational approximations in
 * four ranges, lowest power first.
 */
const ERX = 0.8450629115104675
const PP = [0.12837916709551256, -0.3250421072470015, -0.02848174957559851, -0.005770270296489442, -0.000023763016656650163]
const QQ = [1, 0.39791722395915535, 0.0650222499887673, 0.005081306281875766, 0.00013249473800432164, -0.000003960228278775368]
const PA = [-0.0023621185607526594, 0.41485611868374833, -0.3722078760357013, 0.31834661990116175, -0.11089469428239668, 0.035478304325618236, -0.002166375594868791]
const QA = [1, 0.10642088040084423, 0.540397917702171, 0.07182865441419627, 0.12617121980876164, 0.01363708391202905, 0.011984499846799107]
const RA = [-0.009864944034847148, -0.6938585727071818, -10.558626225323291, -62.375332450326006, -162.39666946257347, -184.60509290671104, -81.2874355063066, -9.814329344169145]
const SA = [1, 19.651271667439257, 137.65775414351904, 434.56587747522923, 645.3872717332679, 429.00814002756783, 108.63500554177944, 6.570249770319282, -0.0604244152148581]
const RB = [-0.0098649429247001, -0.799283237680523, -17.757954917754752, -160.63638485582192, -637.5664433683896, -1025.0951316110772, -483.5191916086514]
const SB = [1, 30.33806074348246, 325.7925129965739, 1536.729586084437, 3199.8582195085955, 2553.0504064331644, 474.52854120695537, -22.44095244658582]

export function erfc(x: number): number {
  if (Number.isNaN(x)) return NaN
  const size = Math.abs(x)
  if (size < 0.84375) {
    const square = x * x
    const y = rising(PP, square) / rising(QQ, square)
    return x < 0.25 ? 1 - (x + x * y) : 0.5 - (x * y + (x - 0.5))
  }
  if (size < 1.25) {
    const ratio = rising(PA, size - 1) / rising(QA, size - 1)
    return x >= 0 ? 1 - ERX - ratio : 1 + (ERX + ratio)
  }
  if (size >= 28 || x < -6) return x > 0 ? 0 : 2
  const inverse = 1 / (size * size)
  const ratio = size < 1 / 0.35 ? rising(RA, inverse) / rising(SA, inverse) : rising(RB, inverse) / rising(SB, inverse)
  // The square of what is left of it in 32 bits is exact.
  const short = upperHalf(size)
  const tail = (Math.exp(-short * short - 0.5625) * Math.exp((short - size) * (short + size) + ratio)) / size
  return x > 0 ? tail : 2 - tail
}

function upperHalf(value: number): number {
  const parts = new DataView(new ArrayBuffer(8))
  parts.setFloat64(0, value)
  parts.setUint32(4, 0)
  return parts.getFloat64(0)
}

function horner(highestFirst: readonly number[], x: number): number {
  return highestFirst.reduce((sum, own) => sum * x + own, 0)
}

function rising(lowestFirst: readonly number[], x: number): number {
  return lowestFirst.reduceRight((sum, own) => own + x * sum, 0)
}
