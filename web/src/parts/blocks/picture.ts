export interface Picture {
  fileId: string;
  src: string;
  alt: string;
  isDecorative: boolean;
  caption: string;
  size: 'small' | 'half' | 'full';
  source: string;
  licence: string;
  drawing: string;
}
/** A picture before anything is said of it. */
export const BARE_PICTURE: Picture = {
  fileId: '',
  src: '',
  alt: '',
  isDecorative: false,
  caption: '',
  size: 'full',
  source: '',
  licence: '',
  drawing: '',
};
