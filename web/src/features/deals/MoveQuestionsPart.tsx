import { Form } from 'react-bootstrap';
import type { Path, UseFormReturn } from 'react-hook-form';
import { boxProblem } from '../../parts/form/boxProblem.ts';
import { TextField } from '../../parts/form/TextField.tsx';
import { countOf } from '../../parts/format.ts';
import type { MoveAnswers, MoveQuestions } from './moveQuestions.ts';

interface MoveQuestionsPartProps<Values extends MoveAnswers> {
  readonly form: UseFormReturn<Values>;
  readonly questions: MoveQuestions;
}

/** In a dialog about a move: what becomes of the open tasks, and what comes next. */
export function MoveQuestionsPart<Values extends MoveAnswers>({ form, questions }: MoveQuestionsPartProps<Values>) {
  const wrong = boxProblem(form, 'tasks');
  return (
    <>
      {questions.tasks > 0 && (
        <fieldset className="mb-2">
          <legend className="form-label">{countOf(questions.tasks, 'task')} still open</legend>
          {(['keep', 'cancel'] as const).map((fate) => (
            <Form.Check
              key={fate}
              type="radio"
              id={`tasks-${fate}`}
              value={fate}
              isInvalid={wrong !== undefined}
              label={fate === 'keep' ? 'Keep them' : 'Cancel them'}
              {...form.register('tasks' as Path<Values>)}
            />
          ))}
          {wrong && <div className="invalid-feedback d-block">{wrong}</div>}
        </fieldset>
      )}
      {questions.next === 'yes' && (
        <div className="next-action">
          <TextField
            form={form}
            name={'nextAction' as Path<Values>}
            id="next-action-text"
            label="What comes next?"
            max={2000}
          />
          <TextField
            form={form}
            name={'nextDay' as Path<Values>}
            id="next-action-day"
            label="By"
            type="date"
            max={10}
          />
        </div>
      )}
    </>
  );
}
