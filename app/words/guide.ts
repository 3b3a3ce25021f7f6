import { type Shown } from './say.ts'

/** guide/CrossingTable.vue */
export const crossingTable = {
  loss: 'loss',
  kept: 'kept',
  byHand: 'by hand',
  someChange: 'Some change',
  crossesWhole: 'Crosses whole',
  limit: 'limit',
}

/** guide/GuideFor.vue */
export const guideFor = {
  yes: 'yes',
  gives: 'Gives',
  takes: 'Takes',
  limitsAndForcedChanges: 'Limits and forced changes',
  makingItReady: 'Making it ready',
  role: 'Role',
  as: (side: Shown) => `as ${side}`,
  needLine: (kinds: Shown, isRecommended: boolean, isSight: boolean) =>
    `for ${kinds}${isRecommended ? ', recommended' : ''}${isSight ? ', looked at by you' : ''}`,
  atHandBack: (title: Shown) => `At hand back: ${title}`,
  noStepSpeaks: 'No step speaks of that.',
  notSeen: 'When it is not seen, or says nothing',
  likeliestFirst: 'the likeliest first',
  from: (from: Shown) => `From: ${from}`,
  everyKind: 'every kind',
}

/** guide/ModelList.vue */
export const modelList = {
  models: 'Models',
  find: 'Find a model, a platform, or a word of a step',
  findHint: 'Model, platform, word',
  version: (model: Shown, v: Shown) => `${model}, version ${v}`,
  noModel: 'No model of that name; its steps are searched on the right.',
  shopsOwn: (own: Shown) => `The shop’s own: ${own}`,
}

/** guide.vue */
export const guidePage = {
  lead: 'what each phone needs, what it gives and takes, and how to get there',
  shopsGuide: (file: Shown) => `The shop’s guide ${file} is not used.`,
  where: (isLater: boolean, place: Shown, rule: Shown) => `${isLater ? '; ' : ''}at ${place}: ${rule}`,
  openingGuides: 'Opening the guides…',
  direction: 'Direction',
  toFrom: (model: Shown) => `To the ${model} from`,
  fromTo: (model: Shown) => `From the ${model} to`,
  otherPhone: 'The other phone',
  anotherPhone: '— another phone —',
  chooseOtherPhone: 'Choose the other phone of the pair.',
  tabTitle: 'Guide · Corvend',
}
