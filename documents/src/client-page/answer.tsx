import type { ClientPage } from '@half-penny/core/client-page';
import { showAmount, type Minor } from '@half-penny/core/money';
import type { Told } from './told';

/** Accepting or declining; what is pressed is signed in the browser. */
export function Answer({ page: { frozen }, t, quote }: Told & { quote: NonNullable<ClientPage['quote']> }) {
  const money = (minor: Minor) => showAmount(minor, frozen.currency, frozen.numberStyle);
  const file = `answer-${frozen.number.replace(/[^\w.-]+/g, '-')}.json`;
  return (
    <section>
      <h2>{t('yourAnswer')}</h2>
      <p id="saved" className="strip" role="status" tabIndex={-1} hidden>
        {t('answerSaved', { file, email: frozen.studio.email })}
      </p>
      <p id="answered" className="strip" role="status" tabIndex={-1} hidden>
        {t('answerSent')}
      </p>
      <form method="post" hidden>
        <fieldset style={{ border: 0, padding: 0, margin: 0 }}>
          {quote.choices.map(({ key, text, amount, optional }) => (
            <label key={key} className="choice">
              <input type="checkbox" name="line" value={key} defaultChecked={!optional} />
              <span>{text}</span>
              <span className="n">{money(amount)}</span>
            </label>
          ))}
          <p style={{ paddingTop: '.4rem' }}>
            {t('answerSum')} <output />
          </p>
        </fieldset>
        <label>
          {t('yourName')}
          <input type="text" name="by" maxLength={200} autoComplete="name" />
        </label>
        <label>
          {t('yourNote')}
          <textarea name="note" rows={2} maxLength={1000} />
        </label>
        <input type="hidden" name="signed" />
        <p role="alert" data-name={t('answerName')} data-lines={t('answerLines')} />
        <p>
          <button className="go" type="submit" name="decision" value="accepted">
            {t('accept')}
          </button>{' '}
          <button className="go other" type="submit" name="decision" value="declined">
            {t('decline')}
          </button>
        </p>
        <p className="soft small">{t('answerSigned')}</p>
      </form>
    </section>
  );
}
