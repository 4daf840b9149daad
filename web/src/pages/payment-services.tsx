import { useState } from 'react';
import type { PaymentServiceTold } from '@zusammen/core/api';
import { call } from '../api/client.ts';
import { useDo, usePaymentServices } from '../api/hooks.ts';
import { Button } from '../parts/button.tsx';
import { Tag } from '../parts/chip.tsx';
import { Copy } from '../parts/copy.tsx';
import { Dialog } from '../parts/dialog.tsx';
import { TextField } from '../parts/form.tsx';
import { Sheet } from '../parts/sheet.tsx';
import { Fetched } from '../parts/states.tsx';

/** The services that take payments for forms of ours. */
export function PaymentServices({ administrator }: { administrator: boolean }) {
  const services = usePaymentServices();
  const [open, setOpen] = useState<PaymentServiceTold | 'new'>();
  return (
    <Sheet className="mt-3.5">
      <header className="flex items-center justify-between gap-3 px-4 py-2.5">
        <h2 className="font-semibold">Payments</h2>
        {administrator && <Button onClick={() => setOpen('new')}>Connect a payment service</Button>}
      </header>
      <Fetched query={services} rows={1}>
        {(list) =>
          list.length === 0 ? (
            <p className="border-t border-hair px-4 py-2.5 text-soft">
              None is connected: forms of ours can’t ask for a fee yet.
            </p>
          ) : (
            <ul>
              {list.map((service) => (
                <li key={service.id} className="flex items-center gap-3 border-t border-hair px-4 py-2.5">
                  <span className="min-w-0 flex-1">
                    <b className="font-semibold">{service.name}</b>
                    <span className="block truncate text-small text-soft">{service.address}</span>
                  </span>
                  <Tag tone={service.test ? 'saffron' : 'plum'}>{service.test ? 'test mode' : 'real'}</Tag>
                  {administrator && <Button onClick={() => setOpen(service)}>Change</Button>}
                </li>
              ))}
            </ul>
          )
        }
      </Fetched>
      {open !== undefined && <Service service={open === 'new' ? undefined : open} close={() => setOpen(undefined)} />}
    </Sheet>
  );
}

function Service({ service, close }: { service: PaymentServiceTold | undefined; close: () => void }) {
  const [name, setName] = useState(service?.name ?? '');
  const [address, setAddress] = useState(service?.address ?? '');
  const [key, setKey] = useState('');
  const [signing, setSigning] = useState('');
  const [test, setTest] = useState(service?.test ?? true);
  const [made, setMade] = useState<PaymentServiceTold>();
  const body = { name, address, test, ...(key === '' ? {} : { key }), ...(signing === '' ? {} : { signing }) };
  const save = useDo(
    () =>
      service
        ? call('put /payment-services/:id', { params: { id: service.id }, body })
        : call('post /payment-services', { body }),
    ['payment services'],
  );
  const remove = useDo(
    () => call('delete /payment-services/:id', { params: { id: service?.id ?? '' } }),
    ['payment services'],
  );
  const problem = (field: string): string | undefined =>
    save.error?.errors.find((each) => each.field === field)?.reason;
  const held = service ? 'leave blank to keep the present one' : undefined;
  return (
    <Dialog open close={close} title={service ? `Change ${service.name}` : 'Connect a payment service'}>
      {made ? (
        <div className="space-y-3">
          <p>{made.name} is connected. Have it send its events here, so that what is paid is carried out.</p>
          <Copy label="Its events go to" text={made.events} />
          <div className="text-right">
            <Button look="strong" onClick={close}>
              Done
            </Button>
          </div>
        </div>
      ) : (
        <form
          className="space-y-4"
          onSubmit={(event) => {
            event.preventDefault();
            save.mutate(undefined, {
              onSuccess: ({ service: now }) => (service ? close() : setMade(now)),
            });
          }}
        >
          <TextField
            label="Name"
            required
            maxLength={120}
            value={name}
            error={problem('name')}
            onChange={({ target }) => setName(target.value)}
          />
          <TextField
            label="Where its API begins"
            required
            placeholder="https://"
            value={address}
            error={problem('address')}
            onChange={({ target }) => setAddress(target.value)}
          />
          <TextField
            label="What speaks for us there"
            type="password"
            autoComplete="off"
            required={!service}
            placeholder={held}
            value={key}
            error={problem('key')}
            onChange={({ target }) => setKey(target.value)}
          />
          <TextField
            label="The key by which it signs its events"
            type="password"
            autoComplete="off"
            required={!service}
            placeholder={held ?? 'whsec_…'}
            value={signing}
            error={problem('signing')}
            onChange={({ target }) => setSigning(target.value)}
          />
          <label className="flex items-center gap-2">
            <input type="checkbox" checked={test} onChange={({ target }) => setTest(target.checked)} /> Test mode: no
            money is moved, and everybody is told so
          </label>
          {service && <Copy label="Its events go to" text={service.events} />}
          {((save.error && save.error.errors.length === 0 ? save.error : undefined) ?? remove.error) && (
            <p role="alert" className="text-brick">
              {(remove.error ?? save.error)!.message}
            </p>
          )}
          <div className="flex justify-between gap-2">
            {service ? (
              <Button
                look="danger"
                busy={remove.isPending}
                onClick={() => remove.mutate(undefined, { onSuccess: close })}
              >
                Disconnect
              </Button>
            ) : (
              <span />
            )}
            <Button look="strong" type="submit" busy={save.isPending}>
              {service ? 'Save' : 'Connect'}
            </Button>
          </div>
        </form>
      )}
    </Dialog>
  );
}
