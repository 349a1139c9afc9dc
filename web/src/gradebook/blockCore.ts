/** What plans a block that is pasted or filled: loaded when the first one is. */
export { planBlock, readBlock } from '@rosemary/core';
