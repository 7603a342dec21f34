-- Up Migration

-- Words of a text as they are searched: without case and accents, letters and digits apart ("Kern40_take2" is kern, 40,
-- take, 2). `platform/search-words.ts` cuts what is searched for the same way.
CREATE FUNCTION search_words(text) RETURNS tsvector LANGUAGE sql IMMUTABLE PARALLEL SAFE AS $$
  SELECT to_tsvector('pg_catalog.simple'::regconfig,
    regexp_replace(
      regexp_replace(
        regexp_replace(
          regexp_replace(translate(normalize(lower($1), NFD), 'øłđßæœ', 'oldsao'), '[\u0300-\u036f]', '', 'g'),
          '[^[:alnum:]]+', ' ', 'g'),
        '([[:alpha:]])([[:digit:]])', '\1 \2', 'g'),
      '([[:digit:]])([[:alpha:]])', '\1 \2', 'g'))
$$;

-- Each for the search over the whole bank.
CREATE INDEX comparison_words ON comparison USING gin (search_words(title || ' ' || question));
CREATE INDEX chain_words ON chain USING gin (search_words(name));
CREATE INDEX gear_words ON gear USING gin (search_words(name || ' ' || maker));
CREATE INDEX take_words ON take USING gin (search_words(file_name));
CREATE INDEX panelist_words ON panelist USING gin (search_words(alias));
CREATE INDEX answer_words ON answer USING gin (search_words(remark)) WHERE remark <> '';
CREATE INDEX decision_words ON decision USING gin (search_words(words));

-- Down Migration

DROP INDEX decision_words;
DROP INDEX answer_words;
DROP INDEX panelist_words;
DROP INDEX take_words;
DROP INDEX gear_words;
DROP INDEX chain_words;
DROP INDEX comparison_words;
DROP FUNCTION search_words(text);
