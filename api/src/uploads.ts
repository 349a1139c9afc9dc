import { id, Joi, whole } from './joi.ts';

/** A file about to be sent in parts. The identifier is the browser's, so that asking twice begins once. */
export interface NewUpload {
  readonly id: string;
  readonly name: string;
  readonly size: number;
}
export const newUpload = Joi.object<NewUpload, true>({
  id: id().required(),
  name: Joi.string().min(1).max(400).required().label('File name'),
  size: whole(1, 1_073_741_824).required().label('Size'),
});

export interface UploadState {
  readonly received: number;
}
