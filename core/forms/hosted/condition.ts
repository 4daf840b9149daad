import 'reflect-metadata';
import { Type } from 'class-transformer';
import { ArrayMaxSize, IsArray, IsIn, IsOptional, IsString, MaxLength, ValidateNested } from 'class-validator';
import { TESTS, type Test } from '../../expressions/index.ts';

/** One comparison with another answer. `field` is its name; that of a question in a group, as in the group's first row. */
export class ShownPart {
  @IsString() @MaxLength(200) field!: string;
  @IsIn(TESTS) test!: Test;
  @IsOptional() @IsString() @MaxLength(1000) value?: string;
}

/** When something is shown. Picked only: the visitor's page evaluates it too, without an interpreter of expressions. */
export class Shown {
  @IsIn(['all', 'any']) match!: 'all' | 'any';
  @IsArray() @ArrayMaxSize(20) @ValidateNested({ each: true }) @Type(() => ShownPart) parts!: ShownPart[];
}
