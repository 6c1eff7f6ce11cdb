export { RESERVED, readExpression, shifted, withNames } from './expression';
export { FUNCTIONS as FORMULA_FUNCTIONS } from './functions';
export { type Value, isQuantity } from './quantity';
export { Amount, Formulas, PARAMETER_KINDS, Parameter, type ParameterKind } from './schema';
export { PER_UNIT, type ParameterScope, type Problem, colourOf, numberOf, scopeOf, wrongName } from './scope';
export { fillSlots, hasSlots, stretchesOf, valueInWording } from './slots';
