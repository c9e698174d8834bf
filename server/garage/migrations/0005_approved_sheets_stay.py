"""An approved sheet never changes: PostgreSQL itself refuses to change, empty or delete one."""

from django.db import migrations

FORWARD = """
CREATE FUNCTION approved_sheet_stays() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    IF OLD.state = 'approved' THEN
        RAISE EXCEPTION 'an approved spec sheet never changes: start a new version';
    END IF;
    IF TG_OP = 'DELETE' THEN RETURN OLD; END IF;
    RETURN NEW;
END $$;
CREATE TRIGGER approved_sheet_stays BEFORE UPDATE OR DELETE ON garage_specsheet
    FOR EACH ROW EXECUTE FUNCTION approved_sheet_stays();

CREATE FUNCTION approved_value_stays() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE
    touched bigint[];
BEGIN
    touched := CASE TG_OP WHEN 'INSERT' THEN ARRAY[NEW.sheet_id] WHEN 'DELETE' THEN ARRAY[OLD.sheet_id]
               ELSE ARRAY[OLD.sheet_id, NEW.sheet_id] END;
    IF EXISTS (SELECT FROM garage_specsheet WHERE id = ANY(touched) AND state = 'approved') THEN
        RAISE EXCEPTION 'an approved spec sheet never changes: start a new version';
    END IF;
    IF TG_OP = 'DELETE' THEN RETURN OLD; END IF;
    RETURN NEW;
END $$;
CREATE TRIGGER approved_value_stays BEFORE INSERT OR UPDATE OR DELETE ON garage_sheetcell
    FOR EACH ROW EXECUTE FUNCTION approved_value_stays();
CREATE TRIGGER approved_answer_stays BEFORE INSERT OR UPDATE OR DELETE ON garage_answereddoubt
    FOR EACH ROW EXECUTE FUNCTION approved_value_stays();
"""
BACKWARD = """
DROP TRIGGER approved_answer_stays ON garage_answereddoubt;
DROP TRIGGER approved_value_stays ON garage_sheetcell;
DROP FUNCTION approved_value_stays();
DROP TRIGGER approved_sheet_stays ON garage_specsheet;
DROP FUNCTION approved_sheet_stays();
"""


class Migration(migrations.Migration):
    dependencies = [("garage", "0004_own_schools")]
    operations = [migrations.RunSQL(FORWARD, BACKWARD)]
