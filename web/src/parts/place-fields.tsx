import type { Buyer } from '@half-penny/core/model';
import { SavedField } from './field';

/** What both parties of an e-invoice have. */
type Place = Pick<Buyer, 'country' | 'city' | 'postCode' | 'electronicAddress'>;

interface PlaceFieldsProps {
  value: Place | undefined;
  /** The country that counts where none is written here. */
  otherwise?: string;
  save: (fields: Partial<Place>) => Promise<unknown>;
}

/** Where a party of an e-invoice is, in the fields that such an invoice has of its own. */
export function PlaceFields({ value, otherwise = '', save }: PlaceFieldsProps) {
  return (
    <>
      <SavedField
        label="Country"
        placeholder={otherwise || 'GB'}
        value={value?.country ?? ''}
        save={(text) => save({ country: text.trim().toUpperCase() })}
        hint="Two letters. BT-40 of the studio, BT-55 of a client."
      />
      <SavedField label="Town" value={value?.city ?? ''} save={(text) => save({ city: text.trim() })} />
      <SavedField label="Post code" value={value?.postCode ?? ''} save={(text) => save({ postCode: text.trim() })} />
      <SavedField
        label="Electronic address"
        value={value?.electronicAddress ?? ''}
        save={(text) => save({ electronicAddress: text.trim() })}
        hint="A mail address, or a scheme and the number in it: 9930:DE123456789. The e-mail where it is empty."
      />
    </>
  );
}
