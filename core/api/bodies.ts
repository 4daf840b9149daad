import 'reflect-metadata';
import { plainToInstance, Transform, Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsBoolean,
  IsDefined,
  IsEmail,
  IsIn,
  IsInt,
  IsObject,
  IsOptional,
  IsString,
  IsUUID,
  Matches,
  Max,
  MaxLength,
  Min,
  MinLength,
  ValidateNested,
} from 'class-validator';
import { AdapterDocument, AdapterOption, AdapterSignIn } from '../adapters/index.ts';
import { IntakeDocument, RecordPart, upgraded } from '../intake/index.ts';
import { FIELD_TYPES, type FieldType } from '../schema/index.ts';
import { IsWebAddress } from '../values/index.ts';
import { ROLES, type Role } from './roles.ts';

/** What requests may say, one class per kind of body. */
export class SignInBody {
  @IsString() @MaxLength(254) email!: string;
  @IsString() @MaxLength(1000) password!: string;
}

/** A token as a header can carry it. */
const IsToken = (): PropertyDecorator => (target, name) => {
  for (const rule of [
    IsString(),
    MinLength(1),
    MaxLength(4000),
    Matches(/^[\x21-\x7e]+$/, { message: 'must be a token without spaces' }),
  ])
    rule(target, name);
};

export class SystemAddressBody {
  @IsWebAddress() @MaxLength(500) address!: string;
  @IsToken() token!: string;
}

/** What is needed to sign in by an adapter; which of it, its way of signing in says. */
export class SignInSecretsBody {
  @IsOptional() @IsString() @MaxLength(4000) key?: string;
  @IsOptional() @IsString() @MaxLength(400) user?: string;
  @IsOptional() @IsString() @MaxLength(4000) password?: string;
  @IsOptional() @IsString() @MaxLength(400) clientId?: string;
  @IsOptional() @IsString() @MaxLength(4000) clientSecret?: string;
}

/** The largest description of an API that is read. */
const LARGEST_DESCRIPTION = 8 * 1024 * 1024;

/** An address to look at, or a description that came as a file. */
export class LookAtSystemBody {
  @IsOptional() @IsWebAddress() @MaxLength(500) address?: string;
  @IsOptional() @IsString() @MaxLength(LARGEST_DESCRIPTION) text?: string;
  @IsOptional() @ValidateNested() @Type(() => AdapterSignIn) signIn?: AdapterSignIn;
  @IsOptional() @ValidateNested() @Type(() => SignInSecretsBody) secrets?: SignInSecretsBody;
  /** Documents elsewhere that it refers to may be fetched. */
  @IsOptional() @IsBoolean() follow?: boolean;
}

/** OData by address and token, or plain JSON by an adapter, or by what an adapter is inferred from. */
export class ConnectSystemBody extends LookAtSystemBody {
  @IsOptional() @IsIn(['odata', 'json']) kind?: 'odata' | 'json';
  /** For OData; for plain JSON it is the key of its sign-in. */
  @IsOptional() @IsToken() token?: string;
  @IsOptional() @ValidateNested() @Type(() => AdapterDocument) adapter?: AdapterDocument;
  @IsString() @MinLength(1) @MaxLength(120) name!: string;
  @IsBoolean() practice!: boolean;
  /** May keep values about people; where nothing is said, a real system may and a practice system may not. */
  @IsOptional() @IsBoolean() personal?: boolean;
}

export class SaveAdapterBody {
  @ValidateNested() @Type(() => AdapterDocument) document!: AdapterDocument;
  /** The version it was made from. */
  @IsInt() @Min(1) version!: number;
  /** It takes over what has changed in the API: that is no longer told. */
  @IsOptional() @IsBoolean() caughtUp?: boolean;
}

/** What a system sent back about who has signed in there, as the address had it. */
export class SignedInBody {
  @IsString() @MaxLength(8000) query!: string;
}

export class TryAdapterBody {
  /** Absent: as it is kept. */
  @IsOptional() @ValidateNested() @Type(() => AdapterDocument) document?: AdapterDocument;
  @IsOptional() @IsArray() @ArrayMaxSize(300) @IsString({ each: true }) entities?: string[];
  /** Records of our own may be made, changed and deleted. */
  @IsOptional() @IsBoolean() writes?: boolean;
}

export class ChangeSystemBody {
  @IsOptional() @IsString() @MinLength(1) @MaxLength(120) name?: string;
  @IsOptional() @IsBoolean() practice?: boolean;
  @IsOptional() @IsBoolean() personal?: boolean;
  @IsOptional() @IsToken() token?: string;
  /** For a system with an adapter. */
  @IsOptional() @ValidateNested() @Type(() => SignInSecretsBody) secrets?: SignInSecretsBody;
}

/** A field to be made in a system. */
export class NewFieldBody {
  @IsString() @MinLength(1) @MaxLength(255) entity!: string;
  /** Characters that can't be seen, or that turn the direction of others, would make another label of it. */
  @IsString()
  @MinLength(1)
  @MaxLength(120)
  @Matches(/^[^\p{Cc}\u202a-\u202e\u2066-\u2069]*$/u, { message: 'must have no control characters' })
  label!: string;
  @IsIn(FIELD_TYPES) type!: FieldType;
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(10_000)
  @ValidateNested({ each: true })
  @Type(() => AdapterOption)
  options?: AdapterOption[];
  @IsOptional() @IsInt() @Min(1) @Max(100_000_000) maxLength?: number;
}

export class ReadFormsBody {
  @IsString() @MaxLength(5 * 1024 * 1024) html!: string;
}

export class ReadPageBody {
  @IsWebAddress() @MaxLength(2000) address!: string;
}

export class NewImportBody {
  @IsString() @MaxLength(36) file!: string;
  /** The same file may be taken in once more. */
  @IsOptional() @IsBoolean() again?: boolean;
}

export class RehearseFileBody {
  @IsString() @MaxLength(36) file!: string;
}

export class ImportStateBody {
  @IsIn(['paused', 'running']) state!: 'paused' | 'running';
}

/** Records that are converted: these, or all that meet a condition; an empty one is met by every record. */
export class ConvertBody {
  @IsOptional()
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(500)
  @IsString({ each: true })
  @MinLength(1, { each: true })
  @MaxLength(255, { each: true })
  records?: string[];
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(10)
  @ValidateNested({ each: true })
  @Type(() => RecordPart)
  where?: RecordPart[];
}

export class CountRecordsBody {
  @IsArray() @ArrayMaxSize(10) @ValidateNested({ each: true }) @Type(() => RecordPart) where!: RecordPart[];
}

export class BulkStateBody {
  @IsIn(['paused', 'running', 'cancelled']) state!: 'paused' | 'running' | 'cancelled';
}

/** An intake's document, of any format known here: it is brought to the newest before it is validated. */
const AnIntake = (): PropertyDecorator => (target, key) => {
  const newest = Transform(
    ({ obj, key: name }) => plainToInstance(IntakeDocument, upgraded((obj as Record<string, unknown>)[name])),
    { toClassOnly: true },
  );
  for (const decorate of [Type(() => IntakeDocument), newest, ValidateNested(), IsDefined()])
    decorate(target, key as string);
};

export class CompareBody {
  @AnIntake() document!: IntakeDocument;
  /** How many of the newest submissions are compared. */
  @IsInt() @Min(1) @Max(200) last!: number;
}

export class SuggestEntity {
  @IsString() @MaxLength(255) name!: string;
  @IsOptional() @IsString() @MaxLength(255) label?: string;
  @IsArray() @ArrayMaxSize(2000) @IsObject({ each: true }) fields!: Record<string, unknown>[];
}
export class SuggestBody {
  /** As `POST /api/forms/read` gives them; further properties of a field are let pass. */
  @IsArray() @ArrayMaxSize(1000) @IsObject({ each: true }) fields!: Record<string, unknown>[];
  @IsArray() @ArrayMaxSize(100) @ValidateNested({ each: true }) @Type(() => SuggestEntity) entities!: SuggestEntity[];
}

export class NewIntakeBody {
  @Matches(/^[a-z0-9]+(-[a-z0-9]+)*$/, { message: 'may have small letters, digits and single hyphens' })
  @MaxLength(80)
  key!: string;
  @AnIntake() document!: IntakeDocument;
}

export class SaveDraftBody {
  @IsInt() @Min(1) revision!: number;
  @AnIntake() document!: IntakeDocument;
}

export class PublishBody {
  @IsInt() @Min(1) revision!: number;
  /** What wants a look is accepted. */
  @IsOptional() @IsBoolean() accept?: boolean;
}

export class IntakeStateBody {
  @IsIn(['open', 'closed']) state!: 'open' | 'closed';
}

export class GoLiveBody {
  @IsInt() @Min(1) version!: number;
  /** What wants a look is accepted. */
  @IsOptional() @IsBoolean() accept?: boolean;
}

export class SigningBody {
  @IsBoolean() required!: boolean;
}

export class ValuesBody {
  @IsObject() values!: Record<string, unknown>;
}

export class RehearseBody {
  @AnIntake() document!: IntakeDocument;
  /** Samples kept with the intake, and submissions it has had, by id. */
  @IsOptional() @IsArray() @ArrayMaxSize(200) @IsUUID(undefined, { each: true }) of?: string[];
  /** Values of one's own, in the place of these. */
  @IsOptional() @IsArray() @ArrayMaxSize(200) @IsObject({ each: true }) samples?: Record<string, unknown>[];
  /** Asks the systems again for what they were asked lately. */
  @IsOptional() @IsBoolean() anew?: boolean;
}

export class AnswerBody {
  @IsString() @MaxLength(64) step!: string;
  /** The row, where the step is done once per row. */
  @IsOptional() @IsInt() @Min(0) row?: number;
  @IsOptional() @IsString() @MaxLength(255) record?: string;
  @IsOptional() @IsIn([true]) anew?: true;
  /** Of each, the record that the evidence speaks for most; those where none does are left alone. */
  @IsOptional() @IsIn([true]) best?: true;
  /** Also those of this intake that wait for the same; of a record, those of whose candidates it is one. */
  @IsOptional() @IsBoolean() alike?: boolean;
}

export class UnanswerBody {
  @IsString() @MaxLength(64) step!: string;
  @IsOptional() @IsInt() @Min(0) row?: number;
}

export class PutAwayBody {
  @IsBoolean() away!: boolean;
}

/** A signed link that opens a form of ours with a record. */
export class LinkBody {
  /** Of which entity the record is, where the form may be opened with several. */
  @IsOptional() @IsString() @MaxLength(255) entity?: string;
  /** The record's id in its system. */
  @IsString() @MinLength(1) @MaxLength(255) record!: string;
  /** Good for so many days. */
  @IsInt() @Min(1) @Max(400) days!: number;
  /** Only one submission comes of it. */
  @IsBoolean() once!: boolean;
}

export class AgainBody {
  /** Values put right, by the form's names; null takes a value away. */
  @IsOptional() @IsObject() values?: Record<string, unknown>;
  /** By the version it came in under, or the one that is live now. */
  @IsOptional() @IsIn(['same', 'live']) under?: 'same' | 'live';
  /** Also those of this intake that came to grief over the same. */
  @IsOptional() @IsBoolean() alike?: boolean;
  /** Of one that waits for the person who acts: it goes on without them, as the connection. */
  @IsOptional() @IsIn(['connection']) as?: 'connection';
  /** Of those alike, which get the values: those that hold what this one held, or all, whatever they hold. */
  @IsOptional() @IsIn(['same', 'all']) which?: 'same' | 'all';
}

export class TakeBackBody {
  /** Only what this step wrote, in all of its rows. */
  @IsOptional() @IsString() @MaxLength(64) step?: string;
}

export class SetAsideBody {
  @IsString() @MinLength(3) @MaxLength(400) reason!: string;
  /** Also those of this intake that wait for the same. */
  @IsOptional() @IsBoolean() alike?: boolean;
}

export class NewPersonBody {
  @IsEmail() @MaxLength(254) email!: string;
  @IsString() @MinLength(1) @MaxLength(120) name!: string;
  @IsIn(ROLES) role!: Role;
  /** The first password; absent: they set it themselves, by a link that is shown once. */
  @IsOptional() @IsString() @MaxLength(200) password?: string;
}

export class ChangePasswordBody {
  @IsString() @MaxLength(1000) current!: string;
  @IsString() @MaxLength(200) password!: string;
}

export class FirstAdministratorBody {
  @IsString() @MaxLength(100) token!: string;
  @IsEmail() @MaxLength(254) email!: string;
  @IsString() @MinLength(1) @MaxLength(120) name!: string;
  @IsString() @MaxLength(200) password!: string;
}

export class SetPasswordBody {
  /** As it stands behind the # of the link. */
  @IsString() @MaxLength(100) token!: string;
  @IsString() @MaxLength(200) password!: string;
}

export class ChangePersonBody {
  @IsOptional() @IsIn(ROLES) role?: Role;
  @IsOptional() @IsBoolean() active?: boolean;
}

/** Where a system may publish who issues its tokens. */
export class FindIssuerBody {
  @IsString() @MaxLength(500) @Matches(/^https?:\/\/\S+$/i, { message: 'must be a web address' }) address!: string;
}

/** How people act as themselves in a system; a secret that isn't given stays as it is. */
export class ActingBody {
  /** Who signs for the system, and issues its tokens (RFC 8414). */
  @IsString() @MaxLength(500) @Matches(/^https?:\/\/\S+$/i, { message: 'must be a web address' }) issuer!: string;
  /** Where the issuer's keys are (JWK Set, RFC 7517). */
  @IsString() @MaxLength(500) @Matches(/^https?:\/\/\S+$/i, { message: 'must be a web address' }) keysAddress!: string;
  /** Where signed contexts are exchanged for tokens (RFC 8693). */
  @IsString() @MaxLength(500) @Matches(/^https?:\/\/\S+$/i, { message: 'must be a web address' }) tokenAddress!: string;
  /** As what Zusammen is known there. */
  @IsString() @MinLength(1) @MaxLength(200) clientId!: string;
  @IsOptional() @IsString() @MinLength(1) @MaxLength(500) clientSecret?: string;
  /** Where the secret goes along: in the header (Basic), or in the body. */
  @IsIn(['header', 'body']) clientBy!: 'header' | 'body';
}

/** A context that a page has signed of somebody, to see who that is and what they may. */
export class TryActingBody {
  @IsString() @MinLength(1) @MaxLength(10_000) context!: string;
}

/** A payment service that is connected; keys that aren't given stay as they are. */
export class PaymentServiceBody {
  @IsString() @MinLength(1) @MaxLength(120) name!: string;
  /** Where its API begins. */
  @IsString() @MaxLength(500) @Matches(/^https?:\/\/\S+$/i, { message: 'must be a web address' }) address!: string;
  /** What speaks for us there. */
  @IsOptional() @IsString() @MinLength(8) @MaxLength(500) key?: string;
  /** By it the service signs its events (Standard Webhooks). */
  @IsOptional()
  @IsString()
  @Matches(/^whsec_[A-Za-z0-9+/=]{16,180}$/, { message: 'must begin with whsec_ and go on in base64' })
  signing?: string;
  /** No money is moved. */
  @IsBoolean() test!: boolean;
}
