import type { QuestionKind } from '@rosemary/core';
import type { Component } from 'vue';
import BlanksKey from './BlanksKey.vue';
import CalculatedKey from './CalculatedKey.vue';
import ChoicesKey from './ChoicesKey.vue';
import HotspotKey from './HotspotKey.vue';
import MatchingKey from './MatchingKey.vue';
import NumericKey from './NumericKey.vue';
import OrderingKey from './OrderingKey.vue';
import PersonKey from './PersonKey.vue';
import ShortKey from './ShortKey.vue';

/** Where the key of each kind of question is changed; the picture is needed where places are drawn into it. */
export const KEY_EDITORS: { readonly [kind in QuestionKind]: { readonly is: Component; readonly takesPicture?: boolean } } = {
  single: { is: ChoicesKey },
  truth: { is: ChoicesKey },
  several: { is: ChoicesKey },
  numeric: { is: NumericKey },
  calculated: { is: CalculatedKey },
  short: { is: ShortKey },
  blanks: { is: BlanksKey },
  matching: { is: MatchingKey },
  ordering: { is: OrderingKey },
  hotspot: { is: HotspotKey, takesPicture: true },
  essay: { is: PersonKey },
  file: { is: PersonKey },
};
